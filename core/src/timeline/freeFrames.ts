import type { Placed } from './lane';

/** Where a segment of `frames` frames may start between two neighbours: whole frames, both ends included. */
interface Room {
  readonly from: number;
  readonly to: number;
}

/** A stretch of a lane: its length, and how much of its head another one covers. */
export interface Stretched {
  readonly end: number;
  readonly length: number;
  readonly covered: number;
}

/** The most frames by which something so long may lie over the end of a stretch: neither hides the other. */
export const maxOverlap = (before: Pick<Stretched, 'length' | 'covered'>, length: number): number =>
  Math.max(0, Math.min(before.length - Math.max(before.covered, 1), length - 1));

/** Overlap of a laid-out segment with the one after it. */
const tailOverlap = (others: readonly Placed[], i: number): number => others[i + 1]?.overlap ?? 0;

/** The most frames by which a new neighbour may overlap the end of `others[i]`. */
const roomAtEnd = (others: readonly Placed[], i: number, frames: number): number =>
  Math.min(others[i]!.timing.frames - others[i]!.overlap, others[i]!.timing.frames - 1, frames - 1);

/** The most frames by which a new neighbour may overlap the start of `others[i]`. */
const roomAtStart = (others: readonly Placed[], i: number, frames: number): number =>
  Math.min(others[i]!.timing.frames - tailOverlap(others, i), others[i]!.timing.frames - 1, frames - 1);

/**
 * The allowed start nearest to the wanted one for a segment of `frames` frames beside the others of its lane: at most
 * two segments overlap anywhere, and none hides another.
 */
export function nearestStart(others: readonly Placed[], frames: number, wanted: number): number {
  let best: number | null = null;
  for (let i = 0; i <= others.length; i++) {
    const room = roomBetween(others, i, frames);
    if (!room) continue;
    const start = Math.min(Math.max(wanted, room.from), room.to);
    if (best === null || Math.abs(start - wanted) < Math.abs(best - wanted)) best = start;
  }
  return best ?? wanted;
}

/** Starts that place a segment between `others[i - 1]` and `others[i]`, null where it cannot stand there. */
function roomBetween(others: readonly Placed[], i: number, frames: number): Room | null {
  const before = others[i - 1];
  const after = others[i];
  // Neighbours that overlap each other already leave no room for a third.
  if (before && after && after.start < before.end) return null;
  const from = before ? before.end - Math.max(0, roomAtEnd(others, i - 1, frames)) : 0;
  const to = after ? after.start - frames + Math.max(0, roomAtStart(others, i, frames)) : Infinity;
  return from <= to ? { from, to } : null;
}

/** The furthest and nearest that the end of `placed[i]` may be moved while everything else stays. */
export function endLimits(placed: readonly Placed[], i: number): Room {
  const own = placed[i]!;
  const after = placed[i + 1];
  const from = own.start + Math.max(1, own.overlap + 1);
  if (!after) return { from, to: Infinity };
  const most = Math.min(after.timing.frames - tailOverlap(placed, i + 1), after.timing.frames - 1);
  return { from, to: after.start + Math.max(0, most) };
}

/** The furthest and nearest that the start of `placed[i]` may be moved while its end and everything else stays. */
export function startLimits(placed: readonly Placed[], i: number): Room {
  const own = placed[i]!;
  const before = placed[i - 1];
  const to = own.end - Math.max(1, tailOverlap(placed, i) + 1);
  if (!before) return { from: 0, to };
  const most = Math.min(before.timing.frames - before.overlap, before.timing.frames - 1);
  return { from: before.end - Math.max(0, most), to };
}
