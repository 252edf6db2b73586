/** Every seam keeps the foot on which somebody stands where it is. */
const STANDING_FOOT = { fit: 'planted foot' };

/** Where a handle lies in a hand, in the axes of the wrist. */
const RIGHT_PALM = { place: [-0.08, -0.03, 0], turn: null };
const LEFT_PALM = { place: [0.07, -0.03, 0], turn: null };
/** What hangs from a handle turns with the hand about the vertical only. */
const HANGING = [false, true, false];
/** Over the floor: neither up and down nor tilted. */
const ON_WHEELS = { places: [true, false, true], turns: [false, true, false] };

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
};
