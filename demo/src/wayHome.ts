import { STANDING_FOOT } from './standingFoot';

/** Over the floor: neither up and down, nor tilted or turned by the sway of the hips. */
const ON_WHEELS = { places: [true, false, true], turns: [false, false, false] };

/** Which way the Keeper goes, degrees. */
const HEADING = -4.6;

/** The frame at which the Keeper begins to pull, the one at which the cart stands, and the one at which the Visitor is off it. */
const OFF = 78;
const THERE = 324;
const STANDING = 402;

/** A hand of the Keeper at the end of a shaft. */
const handAt = (name: string, limb: string, joint: string): object => ({
  name,
  kind: 'reach',
  limb,
  child: 'Keeper',
  parent: 'Hand cart',
  joint,
  start: OFF - 34,
  // The shaft lies in the palm, below the wrist.
  grip: { place: [0, 0.07, -0.03], turn: null },
  end: THERE + 26,
  fadeIn: 18,
  fadeOut: 18,
});

/** A place behind the Keeper's start, metres to the left and backwards by the direction of the way. */
function behind(left: number, back: number): { x: number; z: number; heading: number } {
  const turn = (HEADING * Math.PI) / 180;
  const round = (v: number): number => Math.round(v * 1000) / 1000;
  return {
    x: round(left * Math.cos(turn) - back * Math.sin(turn)),
    z: round(-left * Math.sin(turn) - back * Math.cos(turn)),
    heading: HEADING,
  };
}

const legKeys = [{ frame: 0, turn: [-13, 0, 0] }];

/**
 * When all is done the Keeper pulls the Visitor home on the hand cart, the lantern behind them and the dog beside; the Visitor gets down and
 * nods.
 */
export const WAY_HOME = {
  format: 'warper-cues',
  version: 1,
  name: 'The Way Home',
  rate: 30,
  characters: [
    {
      name: 'Keeper',
      body: 'keeper.glb',
      start: { x: 0, z: 0, heading: 0 },
      cues: [
        { clip: 'keeper-idle.glb', out: 80 },
        { clip: 'keeper-walk-start.glb', seam: { kind: 'step', overlap: 20 } },
        { clip: 'keeper-walk.glb', repeat: 4, seam: STANDING_FOOT },
        { clip: 'keeper-walk-stop.glb', seam: STANDING_FOOT },
        { clip: 'keeper-idle.glb', repeat: 1.4, seam: STANDING_FOOT },
      ],
    },
    {
      name: 'Visitor',
      body: 'visitor.glb',
      start: behind(0, 1.3),
      cues: [
        { clip: 'visitor-sitting.glb', repeat: 2.34 },
        { clip: 'visitor-stand-up.glb', seam: STANDING_FOOT },
        { clip: 'visitor-nod.glb', seam: STANDING_FOOT },
      ],
      layers: [
        {
          name: 'Feet off the floor',
          kind: 'additive',
          mask: ['leftUpperLeg', 'rightUpperLeg'],
          keys: { leftUpperLeg: legKeys, rightUpperLeg: legKeys },
          span: { start: 0, end: THERE + 40, fadeIn: 0, fadeOut: 28 },
        },
      ],
    },
    {
      name: 'Dog',
      body: 'dog.glb',
      start: behind(-1.1, 0.4),
      cues: [
        { clip: 'dog-stand.glb', repeat: 1.1 },
        { clip: 'dog-trot-start.glb', seam: STANDING_FOOT },
        { clip: 'dog-trot.glb', repeat: 8, seam: STANDING_FOOT },
        { clip: 'dog-trot-stop.glb', seam: STANDING_FOOT },
        { clip: 'dog-stand.glb', seam: STANDING_FOOT },
        { clip: 'dog-sit.glb', seam: STANDING_FOOT },
      ],
    },
    {
      name: 'Hand cart',
      prop: { shape: 'hand cart', size: [0.62, 0.36, 0.9] },
      start: behind(0, 1.4),
    },
    { name: 'Lantern', prop: { shape: 'lantern', raised: 0.382 }, start: behind(0.14, 1.7) },
  ],
  tethers: [
    {
      name: 'Pulled along',
      child: 'Hand cart',
      parent: 'Keeper',
      joint: 'hips',
      ...ON_WHEELS,
      start: OFF,
      end: THERE,
    },
    handAt('Left hand on the shaft', 'leftHand', 'leftGrip'),
    handAt('Right hand on the shaft', 'rightHand', 'rightGrip'),
    { name: 'On the cart', child: 'Visitor', parent: 'Hand cart', joint: 'seat', start: 0, end: STANDING },
    { name: 'On the bed', child: 'Lantern', parent: 'Hand cart', joint: 'seat', start: 0 },
  ],
  soundLanes: [
    { name: 'Weather', gain: -14 },
    { name: 'Keeper’s steps', steps: { character: 'Keeper', surface: 'wood' } },
    { name: 'Dog’s steps', gain: -10, steps: { character: 'Dog', surface: 'wood' } },
  ],
  sounds: [{ file: 'wind.wav', name: 'Wind', lane: 'Weather', start: 0, repeat: 2.7, fadeIn: 1, fadeOut: 2 }],
  // Both on one side of the way.
  cameras: [
    {
      name: 'Beside the cart',
      place: [4.3, 1.25, 1.2],
      lens: 32,
      follow: { character: 'Keeper', lag: 0.4 },
      look: { character: 'Visitor', joint: 'chest', lag: 0.3 },
      keep: { character: 'Keeper', left: 0.1, right: 0.9, bottom: 0.06, top: 0.94 },
    },
    { name: 'At home', place: [2.6, 1.35, 10.2], aim: [-0.55, 0.85, 7.5], lens: 30 },
  ],
  shots: [
    { name: 'On the way', camera: 'Beside the cart', start: 0 },
    { name: 'At home', camera: 'At home', start: 300, end: 495 },
  ],
};
