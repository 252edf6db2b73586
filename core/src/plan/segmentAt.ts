import type { SegmentPlan } from './plan';

/** Index of the last segment that has begun at a frame, -1 before the first. */
export function segmentAt(segments: readonly SegmentPlan[], frame: number): number {
  let low = 0;
  let high = segments.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (segments[middle]!.start <= frame) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}
