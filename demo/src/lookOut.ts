import { RAIL } from './acts';
import { STANDING_FOOT } from './standingFoot';

/** Where the Keeper comes to stand, metres ahead of the start. */
const STOP = 4.5;

/** What the Keeper does, with one way of looking out. */
const keeper = (clip: string): object => ({
  name: 'Keeper',
  body: 'keeper.glb',
  start: { x: 0.05, z: -STOP, heading: 4 },
  cues: [
    { clip: 'keeper-idle.glb', out: 40 },
    { clip: 'keeper-walk-start.glb', seam: { kind: 'step', overlap: 20 } },
    { clip: 'keeper-walk.glb', seam: STANDING_FOOT },
    { clip: 'keeper-walk-stop.glb', seam: STANDING_FOOT },
    { clip, seam: STANDING_FOOT },
    { clip: 'keeper-wave.glb', seam: STANDING_FOOT },
    { clip: 'keeper-idle.glb', seam: STANDING_FOOT },
  ],
});

const post = (name: string, x: number): object => ({
  name,
  start: { x, z: RAIL.ahead, heading: 0 },
  prop: { shape: 'box', size: [0.06, RAIL.height, 0.06], colour: '#6b5a48' },
});

/**
 * The Keeper steps to the rail, looks out for the boat, and waves to it; the look-out in two alternates: a hand that shades the eyes, or both
 * hands on the rail.
 */
export const LOOK_OUT = {
  format: 'warper-cues',
  version: 1,
  name: 'The Look-out',
  rate: 30,
  characters: [
    keeper('keeper-look-out.glb'),
    {
      name: 'Rail',
      start: { x: 0, z: RAIL.ahead, heading: 0 },
      prop: { shape: 'box', size: [2.6, 0.05, 0.07], colour: '#8a7256', raised: RAIL.height - 0.05 },
    },
    post('Left post', 1.2),
    post('Right post', -1.2),
  ],
  alternate: { name: 'Hand over the eyes', comment: 'Reads from far away; turns the chest more.' },
  alternates: [
    {
      name: 'Over the rail',
      comment: 'Quieter; the weight is on the hands.',
      characters: [keeper('keeper-lean-out.glb')],
    },
  ],
};
