import type { Skeleton } from './skeleton';

/** How far the rest pose's lowest point may lie from the floor (metres) and still be meant to stand on it. */
const STANDS = { below: 0.02, above: 0.15 };

/** Height of a joint over the sole, metres: over the floor where the rest pose stands on it, else over its lowest point. */
export function soleHeights(skeleton: Skeleton): (joint: number) => number {
  const { positions } = skeleton.rest;
  let low = Infinity;
  for (let i = 0; i < skeleton.names.length; i++) {
    const end = skeleton.ends[i];
    low = Math.min(low, positions[i * 3 + 1]!, positions[i * 3 + 1]! + (end ? end[1] : 0));
  }
  const floor = low >= -STANDS.below && low <= STANDS.above ? 0 : low;
  return (joint) => positions[joint * 3 + 1]! - floor;
}
