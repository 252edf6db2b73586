import { defined } from '../math/defined';
import type { Rate } from '../math/rate';
import { framesPerSecond } from '../math/rate';
import type { Placed } from './lane';

/**
 * How segments may stand beside each other on a lane: at most two at any frame, and none hidden by another. All limits of moves,
 * trims and overlaps follow from `mostOverlap` and `leastLength`.
 */

/** Whole frames, both ends included. */
export interface FrameLimits {
  readonly from: number;
  readonly to: number;
}

/** A segment that another one may overlap: its length, and how much of its other end is overlapped already. */
export interface Neighbour {
  readonly length: number;
  readonly covered: number;
}

/**
 * The most frames that a segment and the one behind it may share.
 *
 * @param bare frames of either that the other must not cover; 0 where a short one may lie wholly over the end of a long one
 */
export const mostOverlap = (before: Neighbour, after: Neighbour, bare = 1): number =>
  Math.max(
    0,
    Math.min(before.length - Math.max(before.covered, bare), after.length - Math.max(after.covered, bare)),
  );

/** The fewest frames that a segment can fill between overlaps that take so many of them. */
export const leastLength = (overlaps: number): number => Math.max(1, overlaps + 1);

/** The most frames of a segment that an overlap takes which nobody asked for: half of them. */
export const halfOf = (frames: number): number => Math.floor(frames / 2);

/** Shortest crossfade that is made unasked, frames at 30 a second, and the usual one. */
const USUAL_OVERLAP = 8;

/** Frames at a rate that last as long as so many at 30 a second. */
export const framesAt30 = (frames: number, rate: Rate): number =>
  Math.round((frames * framesPerSecond(rate)) / 30);

/** Frames of crossfade that two segments get by the plain rule of cue sheets: 8 at 30 a second, less where there is no room. */
export const plainOverlap = (rate: Rate, before: Neighbour, frames: number): number =>
  Math.min(
    framesAt30(USUAL_OVERLAP, rate),
    halfOf(frames),
    mostOverlap(before, { length: frames, covered: 0 }, 0),
  );

/** A laid-out segment as what may be overlapped at its end. */
export const endOf = ({ timing, overlap }: Placed): Neighbour => ({
  length: timing.frames,
  covered: overlap,
});

/** `placed[i]` as what may be overlapped at its start. */
export const startOf = (placed: readonly Placed[], i: number): Neighbour => ({
  length: defined(placed[i]).timing.frames,
  covered: placed[i + 1]?.overlap ?? 0,
});

/** A segment of so many frames that nothing overlaps yet. */
export const alone = (frames: number): Neighbour => ({ length: frames, covered: 0 });

/** The most frames that `placed[i]` and the one before it may share. */
export const mostOverlapAt = (placed: readonly Placed[], i: number): number =>
  i > 0 ? mostOverlap(endOf(defined(placed[i - 1])), startOf(placed, i)) : 0;

/** Whether stretches, in order of their starts, can stand on one lane. */
export function canStand(row: readonly { readonly start: number; readonly end: number }[]): boolean {
  for (let i = 0; i < row.length; i++) {
    const own = defined(row[i]);
    if (own.start < 0) return false;
    const next = row[i + 1];
    if (!next) continue;
    if (next.start <= own.start || next.end <= own.end) return false;
    const after = row[i + 2];
    if (after && after.start < own.end) return false;
  }
  return true;
}

/** The allowed start nearest to the wanted one for a segment of `frames` frames beside the others of its lane. */
export function nearestStart(others: readonly Placed[], frames: number, wanted: number): number {
  let best: number | null = null;
  for (let i = 0; i <= others.length; i++) {
    const limits = startsBetween(others, i, frames);
    if (!limits) continue;
    const start = Math.min(Math.max(wanted, limits.from), limits.to);
    if (best === null || Math.abs(start - wanted) < Math.abs(best - wanted)) best = start;
  }
  return best ?? wanted;
}

/** Starts that place a segment between `others[i - 1]` and `others[i]`, null where it cannot stand there. */
function startsBetween(others: readonly Placed[], i: number, frames: number): FrameLimits | null {
  const before = others[i - 1];
  const after = others[i];
  // Neighbours that overlap each other already leave no room for a third.
  if (before && after && after.start < before.end) return null;
  const item = alone(frames);
  const from = before ? before.end - mostOverlap(endOf(before), item) : 0;
  const to = after ? after.start - frames + mostOverlap(item, startOf(others, i)) : Infinity;
  return from <= to ? { from, to } : null;
}

/** As long as anything that could stand there. */
const ENDLESS = alone(Infinity);

/** The nearest and furthest that the end of `placed[i]` may be moved while everything else stays. */
export function endLimits(placed: readonly Placed[], i: number): FrameLimits {
  const item = defined(placed[i]);
  const after = placed[i + 1];
  const from = item.start + leastLength(item.overlap);
  if (!after) return { from, to: Infinity };
  return { from, to: after.start + mostOverlap(ENDLESS, startOf(placed, i + 1)) };
}

/** The furthest and nearest that the start of `placed[i]` may be moved while its end and everything else stays. */
export function startLimits(placed: readonly Placed[], i: number): FrameLimits {
  const item = defined(placed[i]);
  const before = placed[i - 1];
  const to = item.end - leastLength(startOf(placed, i).covered);
  if (!before) return { from: 0, to };
  return { from: before.end - mostOverlap(endOf(before), ENDLESS), to };
}
