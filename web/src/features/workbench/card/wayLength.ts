import type { SegmentPlan } from '@warper/core';
import { defined } from '@warper/core';

/** Metres that a segment's root goes by its own steps, whatever path it is led along. */
export function wayLength({ root, in: first, out, loop, period, time }: SegmentPlan): number {
  const last = Math.min(root.length / 3 - 1, Math.ceil(loop ? first + period : out - 1));
  const at = (s: number, k: number): number => defined(root[s * 3 + k]);
  let sum = 0;
  for (let s = Math.floor(first) + 1; s <= last; s++)
    sum += Math.hypot(at(s, 0) - at(s - 1, 0), at(s, 1) - at(s - 1, 1));
  return loop ? (sum * time.total) / period : sum;
}
