import type { FloorMove } from '../math/floorMove';
import { STILL, composeMoves } from '../math/floorMove';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import type { Segment } from '../scene/segment';
import { meetingMove } from './meetings';
import type { Row } from './placeSegments';

/** How often a meeting is solved at most: once where all that follows is carried along as one body. */
const MOST_ROUNDS = 3;
/** Metres and radians within which a meeting is met. */
const MET = 1e-9;

/**
 * Places the segments of a body lane so that each that meets somebody stands where it is to: first without, then each moved by what it
 * was off, in their order.
 *
 * @param origin segments, and those whom they meet, in the order of the segments that do
 */
export function meetAll(
  {
    segments,
    met,
  }: { readonly segments: readonly Segment[]; readonly met: readonly (CharacterPlan | undefined)[] },
  planOf: (segments: readonly SegmentPlan[]) => CharacterPlan,
  place: (meets: ReadonlyMap<string, FloorMove>) => Row[],
): Row[] {
  const meets = new Map<string, FloorMove>();
  let rows = place(meets);
  let k = 0;
  for (const { id, meet } of segments) {
    if (!meet) continue;
    const other = met[k++];
    const start = rows.find((r) => r.segment.id === id)?.plan.start;
    if (!other || start === undefined) continue;
    for (let round = 0; round < MOST_ROUNDS; round++) {
      const move = meetingMove(planOf(rows.map((r) => r.plan)), other, start + meet.frame, meet);
      if (Math.hypot(move.x, move.z) < MET && Math.abs(move.turn) < MET) break;
      meets.set(id, composeMoves(move, meets.get(id) ?? STILL));
      rows = place(meets);
    }
  }
  return rows;
}
