import { STANDING_FOOT } from './standingFoot';

/** Where a handle lies in a hand, in the axes of the wrist. */
const RIGHT_PALM = { place: [-0.08, -0.03, 0], turn: null };
const LEFT_PALM = { place: [0.07, -0.03, 0], turn: null };
/** What hangs from a handle turns with the hand about the vertical only. */
const HANGING = [false, true, false];
/** Over the floor: neither up and down nor tilted. */
const ON_WHEELS = { places: [true, false, true], turns: [false, true, false] };

/** A camera on a shoulder. */
const HANDHELD = { turn: 0.25, sway: 0.008, frequency: 0.6, seed: 11 };

/** The frame at which the lantern goes from one to the other. */
const HANDED = 600;

/**
 * An errand before dark: the Keeper slides the storm shutter along, with the dog on a lead, picks the lantern up, pulls the cart to the
 * Visitor, hands the lantern over and is pushed aside by the door; the Visitor nods and sits down on the bench.
 */
export const BEFORE_DARK = {
  format: 'warper-cues',
  version: 1,
  name: 'The Lamp Round: Before Dark',
  rate: 30,
  characters: [
    {
      name: 'Keeper',
      body: 'keeper.glb',
      start: { x: 0, z: -4.4, heading: 0 },
      cues: [
        { clip: 'keeper-idle.glb', out: 40 },
        { clip: 'keeper-walk-start.glb', seam: { kind: 'step', overlap: 20 } },
        { clip: 'keeper-walk.glb', repeat: 2, seam: STANDING_FOOT },
        { clip: 'keeper-walk-stop.glb', seam: STANDING_FOOT },
        // Picked up as it is set down, backwards.
        { clip: 'Set down.bvh', reverse: true, seam: STANDING_FOOT },
        { clip: 'keeper-walk-start.glb', seam: { kind: 'step', overlap: 20 } },
        { clip: 'keeper-walk.glb', repeat: 2, seam: STANDING_FOOT },
        { clip: 'keeper-walk-stop.glb', seam: STANDING_FOOT },
        { clip: 'keeper-idle.glb', repeat: 2, seam: STANDING_FOOT },
      ],
      layers: [
        {
          name: 'Offers the lantern',
          mask: ['rightUpperArm*'],
          cues: [{ clip: 'signal-wait.glb', at: HANDED - 30, length: 75, fadeIn: 12, fadeOut: 14 }],
        },
      ],
    },
    {
      name: 'Visitor',
      body: 'visitor.glb',
      cues: [
        {
          clip: 'visitor-idle.glb',
          repeat: 4.6,
          meet: { character: 'Keeper', frame: HANDED, distance: 0.74 },
        },
        { clip: 'visitor-nod.glb', seam: STANDING_FOOT },
        { clip: 'visitor-sit-down.glb', seam: STANDING_FOOT },
        { clip: 'visitor-sitting.glb', seam: STANDING_FOOT },
      ],
    },
    {
      name: 'Dog',
      body: 'dog.glb',
      start: { x: -0.74, z: -4.35, heading: -7 },
      cues: [
        { clip: 'dog-stand.glb', out: 34 },
        { clip: 'dog-trot-start.glb', seam: STANDING_FOOT },
        { clip: 'dog-trot.glb', repeat: 4, seam: STANDING_FOOT },
        { clip: 'dog-trot-stop.glb', seam: STANDING_FOOT },
        { clip: 'dog-stand.glb', seam: STANDING_FOOT },
        { clip: 'dog-sit.glb', seam: STANDING_FOOT },
      ],
    },
    {
      name: 'Lantern',
      prop: { shape: 'lantern' },
      start: { x: -0.69, z: 1.8, heading: 0 },
    },
    {
      name: 'Bench',
      prop: { shape: 'bench', size: [1.3, 0.38, 0.4] },
      start: { x: -1.5, z: 8.4, heading: 172 },
    },
    {
      name: 'Hand cart',
      prop: { shape: 'hand cart', size: [0.6, 0.92, 1] },
      start: { x: 0.2, z: 0.05, heading: -4 },
    },
    {
      name: 'Storm shutter',
      prop: { shape: 'storm shutter', raised: 0.5 },
      start: { x: 0.46, z: -2.5, heading: 90 },
    },
    { name: 'Door', prop: { shape: 'door' }, start: { x: -1.95, z: 7.2, heading: 90 } },
    {
      name: 'Basket',
      prop: { shape: 'basket', size: [0.22, 0.16, 0.2], raised: 0.59 },
      start: { x: -0.74, z: -4.3, heading: -7 },
    },
  ],
  tethers: [
    {
      name: 'Lead',
      kind: 'lead',
      child: 'Dog',
      parent: 'Keeper',
      joint: 'rightHand',
      held: 'neck',
      length: 2,
      start: 20,
      end: 215,
    },
    { name: 'On its back', child: 'Basket', parent: 'Dog', joint: 'spine', start: 0 },
    {
      name: 'Along its rail',
      child: 'Storm shutter',
      parent: 'Keeper',
      joint: 'hips',
      held: 'shutter',
      jointOnly: true,
      directions: 'own',
      places: [true, false, false],
      turns: [false, false, false],
      start: 72,
      end: 95,
    },
    {
      name: 'Hand on the shutter',
      kind: 'reach',
      limb: 'leftHand',
      child: 'Keeper',
      parent: 'Storm shutter',
      joint: 'shutter',
      grip: { place: [0.2, 0.62, -0.1], turn: null },
      start: 60,
      end: 104,
      fadeIn: 12,
      fadeOut: 10,
    },
    {
      name: 'In the right hand',
      child: 'Lantern',
      parent: 'Keeper',
      joint: 'rightHand',
      held: 'grip',
      grip: RIGHT_PALM,
      turns: HANGING,
      start: 328,
      end: HANDED + 24,
      fadeIn: 8,
    },
    {
      name: 'Pulled along',
      child: 'Hand cart',
      parent: 'Keeper',
      joint: 'hips',
      ...ON_WHEELS,
      start: 372,
      end: 530,
    },
    {
      name: 'Hand on the shaft',
      kind: 'reach',
      limb: 'leftHand',
      child: 'Keeper',
      parent: 'Hand cart',
      joint: 'rightGrip',
      start: 360,
      end: 540,
      fadeIn: 12,
      fadeOut: 10,
    },
    {
      name: 'Reaches for the lantern',
      kind: 'reach',
      limb: 'leftHand',
      child: 'Visitor',
      parent: 'Lantern',
      joint: 'grip',
      grip: { place: [0, 0.02, 0], turn: null },
      start: HANDED - 20,
      end: HANDED + 26,
      fadeIn: 18,
      fadeOut: 14,
    },
    {
      name: 'Taken over',
      child: 'Lantern',
      parent: 'Visitor',
      joint: 'leftHand',
      held: 'grip',
      grip: LEFT_PALM,
      turns: HANGING,
      start: HANDED,
      fadeIn: 24,
    },
    {
      name: 'On the bench',
      child: 'Visitor',
      parent: 'Bench',
      joint: 'seat',
      start: 760,
      ...{ held: 'hips' },
    },
  ],
  markers: [{ name: 'Hands over', frame: HANDED, impact: [] }],
  links: [
    { follower: { marker: 'Hands over' }, leader: { character: 'Keeper', cue: 7, at: 'end' }, offset: 27 },
    { follower: { character: 'Visitor', cue: 1 }, leader: { marker: 'Hands over' }, offset: 40 },
  ],
  pushes: [{ character: 'Keeper', by: 'Door', frame: 710, frames: 30, distance: 0.3, heading: 80 }],
  // All of them on one side of the Keeper's way.
  soundLanes: [
    { name: 'Weather', gain: -12 },
    { name: 'Voices' },
    { name: 'Lamp', gain: -6 },
    { name: 'Keeper’s steps', steps: { character: 'Keeper', surface: 'wood' } },
    { name: 'Dog’s steps', gain: -10, steps: { character: 'Dog', surface: 'wood' } },
  ],
  sounds: [
    { file: 'wind.wav', name: 'Wind', lane: 'Weather', start: 0, repeat: 5.1, fadeIn: 1, fadeOut: 2 },
    { file: 'hail-boat.wav', name: 'Hail', lane: 'Voices', start: 10 },
    { file: 'hail-answer.wav', name: 'Answer', lane: 'Voices', start: 58, gain: -8 },
    {
      file: 'lamp-winding.wav',
      name: 'Winding',
      lane: 'Lamp',
      start: 718,
      repeat: 3,
      fadeOut: 1,
    },
  ],
  lines: [
    { speaker: 'Keeper', text: 'Ahoy, the boat!', start: 10, end: 52 },
    { speaker: 'Boat', text: 'Coming in!', start: 58, end: 92 },
    { speaker: 'Keeper', text: 'Take the light. I have the lamp to wind.', start: 575, end: 640 },
  ],
  cameras: [
    {
      name: 'Gallery',
      place: [-0.7, 2.1, 2.4],
      lens: 35,
      look: { character: 'Keeper', joint: 'chest', lag: 0.4 },
      keep: { character: 'Keeper', left: 0.2, right: 0.8, bottom: 0.04, top: 0.94 },
      hand: HANDHELD,
    },
    {
      name: 'Beside the dog',
      place: [3, 1, 1.5],
      lens: 28,
      follow: { character: 'Keeper', lag: 0.3 },
      look: { character: 'Keeper', joint: 'chest', lag: 0.2 },
      keep: { character: 'Keeper', left: 0.2, right: 0.9, bottom: 0.04, top: 0.94 },
    },
    {
      name: 'Low',
      place: [1.9, 0.75, 3.9],
      lens: 35,
      look: { character: 'Keeper', joint: 'hips', lag: 0.5 },
      keep: { character: 'Keeper', left: 0.15, right: 0.85, bottom: 0.04, top: 0.94 },
    },
    {
      name: 'Along the rail',
      place: [0, 1.35, 0],
      lens: 32,
      path: [
        [4.3, 3.4],
        [4.6, 5.4],
        [4.2, 7.2],
      ],
      keys: [
        { frame: 372, along: 0, curve: 'flat' },
        { frame: 540, along: 1, curve: 'flat' },
      ],
      look: { character: 'Keeper', joint: 'chest', lag: 0.25 },
      keep: { character: 'Keeper', left: 0.15, right: 0.85, bottom: 0.04, top: 0.94 },
    },
    {
      name: 'Both of them',
      place: [3.1, 1.45, 7.6],
      aim: [-0.3, 1.1, 7.6],
      lens: 35,
      hand: HANDHELD,
    },
    { name: 'Bench', place: [2.6, 1.3, 10.2], aim: [-1, 0.85, 8], lens: 32 },
  ],
  shots: [
    { name: 'The shutter', camera: 'Gallery', start: 0 },
    { name: 'On the lead', camera: 'Beside the dog', start: 122 },
    { name: 'The lantern', camera: 'Low', start: 232 },
    { name: 'The cart', camera: 'Along the rail', start: 378 },
    { name: 'Handed over', camera: 'Both of them', start: 548, blend: 24 },
    { name: 'The bench', camera: 'Bench', start: 704, end: 927 },
  ],
};
