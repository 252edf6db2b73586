import type { Prop } from './prop';

/** A level surface of a prop on which somebody may stand: a rectangle in the axes of its root bone, metres. */
export interface Tread {
  readonly x: readonly [least: number, most: number];
  readonly z: readonly [least: number, most: number];
  readonly height: number;
  /** Whether the prop fills all that is below, so that nobody stands in it. */
  readonly isSolid: boolean;
}

/** Height of a comfortable riser, metres (common practice). */
const RISER = 0.18;
/** Height of a hand cart's bed over its axes, of the cart's height: half as thick as the bed is. */
const BED = 1.06;

/** How many steps a stair has, and what they measure: rise and run, metres. */
export function stairSteps([, height, depth]: Prop['size']): { count: number; rise: number; run: number } {
  const count = Math.min(100, Math.max(1, Math.round(height / RISER)));
  return { count, rise: height / count, run: depth / count };
}

/** The treads of a prop that is made in code, at its own size; none of one that came with a file. */
export function treadsOf({ shape, size }: Prop): Tread[] {
  const [w, h, d] = size;
  const whole = (height: number, isSolid: boolean): Tread => ({
    x: [-w / 2, w / 2],
    z: [-d / 2, d / 2],
    height,
    isSolid,
  });
  if (shape === 'box' || shape === 'plane' || shape === 'cylinder') return [whole(h, true)];
  if (shape === 'bench') return [whole(h, false)];
  if (shape === 'hand cart') return [whole(BED * h, false)];
  if (shape !== 'stair') return [];
  const { count, rise, run } = stairSteps(size);
  return Array.from({ length: count }, (_, i) => ({
    ...whole(rise * (i + 1), true),
    z: [i * run - d / 2, (i + 1) * run - d / 2] as const,
  }));
}
