import type { Scene } from '../scene/scene';
import type { Lane } from '../scene/lane';
import type { Segment } from '../scene/segment';
import type { ClipSource } from '../timeline/lane';
import { layOut } from '../timeline/lane';
import { isGivenJoin } from './neighbours';

/** The segment before each one of a row of segments. */
const before = (row: readonly Segment[]): ReadonlyMap<string, Segment> =>
  new Map(row.slice(1).map((segment, i) => [segment.id, row[i]!]));

/** Who stands before whom on a lane: among those that are performed, and among all. */
function neighbours(scene: Scene, lane: Lane | undefined) {
  const all = (lane?.segments ?? []).map((id) => scene.segments[id]!);
  return { performed: before(all.filter((s) => !s.off)), all: before(all) };
}

/**
 * The segments whose join to the one before was made or changed by an edit, and is to be chosen, in the order of their lanes:
 * - those that have come to stand behind another one, even where the join to the former one was set by hand: what was set for
 *   one pair of motions says nothing about another. A segment that is only disabled is still there, and its join is kept for when
 *   it is enabled again; what is pasted keeps the joins among itself; a split leaves the join at its end as it was.
 * - those of which either side plays another motion than it did (another clip, mirrored, reversed, its travel made otherwise), unless
 *   the join is set by hand. A change of speed or length leaves the join: to choose it anew would change the length again.
 */
export function madeJoins(previous: Scene, current: Scene, library: ClipSource): string[] {
  return Object.values(current.lanes).flatMap((lane) => {
    if (lane.kind !== 'body' || isUnchanged(previous, current, lane)) return [];
    const old = neighbours(previous, previous.lanes[lane.id]);
    const now = neighbours(current, lane);
    /** Whether a segment stands behind the same motion as before; what is pasted, whether it has come with what it stands behind. */
    const isBehindTheSame = (id: string, among: 'performed' | 'all'): boolean => {
      const left = now[among].get(id);
      if (!left) return true;
      if (!previous.segments[id]) return !previous.segments[left.id];
      const was = old[among].get(id);
      return was?.id === left.id || (was !== undefined && !previous.segments[left.id] && endAlike(was, left));
    };
    const changed = [...now.performed].filter(([id, left]) => {
      const segment = current.segments[id]!;
      if (!segment.seam.auto) return !isBehindTheSame(id, 'performed') && !isBehindTheSame(id, 'all');
      if (!previous.segments[id] || !isBehindTheSame(id, 'performed')) return true;
      return (
        playsOtherwise(previous.segments[left.id], left) || playsOtherwise(previous.segments[id], segment)
      );
    });
    if (changed.length === 0) return [];
    const placed = layOut(current, lane, library);
    const order = new Map(placed.map((p, i) => [p.segment.id, i]));
    return changed.flatMap(([id]) => {
      const i = order.get(id)!;
      return isGivenJoin({ before: placed[i - 1]!, item: placed[i]! }) ? [] : [id];
    });
  });
}

/** Whether another motion is played than before. */
const playsOtherwise = (was: Segment | undefined, now: Segment): boolean =>
  was !== undefined &&
  (['clip', 'mirror', 'reverse', 'travel', 'straighten'] as const).some((key) => was[key] !== now[key]);

/** Whether two segments end in the same motion, as the later part of a split does. */
const endAlike = (a: Segment, b: Segment): boolean =>
  a.clip === b.clip && a.mirror === b.mirror && a.reverse === b.reverse && a.out === b.out;

const isUnchanged = (previous: Scene, current: Scene, lane: Lane): boolean =>
  previous.lanes[lane.id] === lane &&
  lane.segments.every((id) => previous.segments[id] === current.segments[id]);
