import type { Join } from '../edit/edits/join';
import { repeatsLoop } from '../edit/sceneEditor';
import { parseRate } from '../math/rate';
import { PLAIN_CROSSFADE } from '../scene/seam';
import type { Scene } from '../scene/scene';
import { mostOverlap, plainOverlap } from '../timeline/freeFrames';
import type { ClipSource, Placed } from '../timeline/lane';
import { layOut } from '../timeline/lane';

/** Whether a segment goes on with the loop of the one before, or with its motion from where that was cut. */
export const goesOn = ({ segment: a }: Placed, { segment: b, overlap }: Placed): boolean =>
  repeatsLoop(a, b) ||
  (overlap === 0 &&
    a.clip === b.clip &&
    a.mirror === b.mirror &&
    !a.loop &&
    a.out === b.in &&
    a.reverse === b.reverse);

/**
 * What makes the join before a segment plain again: a crossfade of the usual length, by the planted foot, not nudged, and what a
 * choice has trimmed given back.
 *
 * @returns null where there is nothing before it that it joins, or it goes on with its loop or its motion
 */
export function plainJoin(scene: Scene, id: string, library: ClipSource): Join | null {
  const lane = Object.values(scene.lanes).find((l) => l.segments.includes(id));
  if (!lane || lane.kind === 'layer') return null;
  const placed = layOut(scene, lane, library);
  const i = placed.findIndex((p) => p.segment.id === id);
  const [before, item] = [placed[i - 1], placed[i]];
  if (!before || !item || item.gap > 0 || goesOn(before, item)) return null;
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
    values: {
      fit: 'planted foot',
      facing: true,
      nudge: { x: 0, z: 0, turn: 0 },
      auto: false,
      chosen: null,
    },
    join: PLAIN_CROSSFADE,
  };
}
