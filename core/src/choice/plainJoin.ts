import type { Join } from '../edit/edits/join';
import { parseRate } from '../math/rate';
import { PLAIN_CROSSFADE } from '../scene/seam';
import type { Scene } from '../scene/scene';
import { mostOverlap, plainOverlap } from '../timeline/freeFrames';
import type { ClipSource } from '../timeline/lane';
import { isGivenJoin, neighboursOf } from './neighbours';

/**
 * What makes the join before a segment plain again: a crossfade of the usual length, by the planted foot, not nudged, and what a
 * choice has trimmed given back.
 *
 * @returns null where there is nothing before it that it joins, or it goes on with its loop or its motion
 */
export function plainJoin(scene: Scene, id: string, library: ClipSource): Join | null {
  const pair = neighboursOf(scene, id, library);
  if (!pair || isGivenJoin(pair)) return null;
  const { before, item, tail } = pair;
  const { out, in: into } = item.segment.seam.chosen?.changed ?? { out: 0, in: 0 };
  const ends = { length: before.timing.frames - out, covered: before.overlap };
  const starts = { length: item.timing.frames - into, covered: tail };
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
