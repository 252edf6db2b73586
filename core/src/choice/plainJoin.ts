import type { Join } from '../edit/edits/join';
import { repeatsLoop } from '../edit/sceneEditor';
import { parseRate } from '../math/rate';
import { PLAIN_CROSSFADE } from '../scene/seam';
import type { Scene } from '../scene/scene';
import { mostOverlap, plainOverlap } from '../timeline/freeFrames';
import type { ClipSource } from '../timeline/lane';
import { layOut } from '../timeline/lane';

/**
 * What makes the join before a segment plain again: a crossfade of the usual length, by the planted foot, and what a choice has
 * trimmed given back.
 *
 * @returns null where there is nothing before it that it joins, or it goes on with its loop
 */
export function plainJoin(scene: Scene, id: string, library: ClipSource): Join | null {
  const lane = Object.values(scene.lanes).find((l) => l.segments.includes(id));
  if (!lane || lane.kind === 'layer') return null;
  const placed = layOut(scene, lane, library);
  const i = placed.findIndex((p) => p.segment.id === id);
  const [before, item] = [placed[i - 1], placed[i]];
  if (!before || !item || item.gap > 0 || repeatsLoop(before.segment, item.segment)) return null;
  const { out, in: into } = item.segment.seam.chosen?.changed ?? { out: 0, in: 0 };
  const ends = { length: before.timing.frames - out, covered: before.overlap };
  const starts = { length: item.timing.frames - into, covered: placed[i + 1]?.overlap ?? 0 };
  const usual = plainOverlap(parseRate(scene.rate), ends, starts.length);
  return {
    type: 'join',
    segment: id,
    before: ends.length,
    own: starts.length,
    overlap: Math.min(usual, mostOverlap(ends, starts)),
    values: { fit: 'planted foot', auto: false, chosen: null },
    join: PLAIN_CROSSFADE,
  };
}
