import type { Scene } from '../scene/scene';
import type { Lane } from '../scene/lane';
import type { Segment } from '../scene/segment';
import type { ClipSource } from '../timeline/lane';
import { layOut } from '../timeline/lane';

/** The segment before each one of a lane. */
function neighbours(scene: Scene, lane: Lane | undefined): Map<string, Segment> {
  const performed = (lane?.segments ?? []).map((id) => scene.segments[id]!).filter((s) => !s.off);
  return new Map(performed.slice(1).map((segment, i) => [segment.id, performed[i]!]));
}

/**
 * The segments whose join to the one before was made or changed by an edit, and is to be chosen: those that have come to stand
 * behind another one, or play another clip than they did on either side. In the order of their lanes.
 */
export function madeJoins(before: Scene, after: Scene, library: ClipSource): string[] {
  return Object.values(after.lanes).flatMap((lane) => {
    const previous = before.lanes[lane.id];
    if (lane.kind !== 'body' || isUnchanged(before, after, lane)) return [];
    const old = neighbours(before, previous);
    const current = neighbours(after, lane);
    const changed = [...current].filter(([id, left]) => {
      const segment = after.segments[id]!;
      if (!segment.seam.auto) return false;
      const was = old.get(id);
      return was?.id !== left.id || was.clip !== left.clip || before.segments[id]?.clip !== segment.clip;
    });
    if (changed.length === 0) return [];
    const gaps = new Map(layOut(after, lane, library).map((p) => [p.segment.id, p.gap]));
    return changed.filter(([id]) => gaps.get(id) === 0).map(([id]) => id);
  });
}

const isUnchanged = (before: Scene, after: Scene, lane: Lane): boolean =>
  before.lanes[lane.id] === lane && lane.segments.every((id) => before.segments[id] === after.segments[id]);
