import type { Library } from '../compile/compile';
import type { Join } from '../edit/edits/join';
import { PLAIN_LIMITS } from '../scene/choice';
import type { Scene } from '../scene/scene';
import { joinOf } from '../scene/seam';
import { framesPerSecond, parseRate } from '../math/rate';
import { mapBetween } from './candidates';
import { boundsOf, pairOf } from './pairOnLane';

/**
 * Moves both ends of a join to the best match of frames, which then meet in the middle of the overlap that it has; nothing else of it
 * changes. What a loop plays stays. At least a second of either clip does, or as much as there is.
 *
 * @param within frames by which either end may move
 * @returns null where nothing can be moved
 */
export function matchJoin(scene: Scene, id: string, within: number, library: Library): Join | null {
  const pair = pairOf(scene, id, library);
  if (!pair) return null;
  const { before, item } = pair;
  const fps = framesPerSecond(parseRate(scene.rate));
  const { overlap } = item;
  const bounds = boundsOf(pair, library, {
    ...PLAIN_LIMITS,
    within: within / fps,
    keepEnd: before.segment.loop,
    keepStart: item.segment.loop,
  });
  const { filled, lost } = bounds;
  if (filled.least === filled.most && lost.least === lost.most) return null;
  // The middle of an odd overlap lies between two frames: the pair is the one before it.
  const half = Math.floor(overlap / 2);
  const rest = overlap - half;
  const map = mapBetween(pair, bounds, overlap, library);
  const room = {
    ends: Math.max(filled.least, overlap + before.overlap + 1),
    starts: overlap + pair.tail + 1,
  };
  const best = map.least(
    { least: room.ends - rest, most: filled.most - rest },
    { least: lost.least + half, most: Math.min(lost.most, item.timing.frames - room.starts) + half },
  );
  if (!best) return null;
  return {
    type: 'join',
    segment: id,
    before: best.out + rest,
    own: item.timing.frames - (best.in - half),
    overlap,
    values: {},
    join: joinOf(item.segment.seam, overlap),
  };
}
