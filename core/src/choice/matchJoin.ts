import type { Library } from '../compile/compile';
import type { Join } from '../edit/edits/join';
import { PLAIN_LIMITS } from '../scene/choice';
import type { Scene } from '../scene/scene';
import { framesPerSecond, parseRate } from '../math/rate';
import { mapBetween } from './candidates';
import { joinMeeting, reachOf } from './joinMeeting';
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
  const bounds = boundsOf(pair, library, {
    ...PLAIN_LIMITS,
    within: within / fps,
    keepEnd: before.segment.loop,
    keepStart: item.segment.loop,
  });
  const { filled, lost } = bounds;
  if (filled.least === filled.most && lost.least === lost.most) return null;
  const map = mapBetween(pair, bounds, item.overlap, library);
  const reach = reachOf(pair, bounds);
  const best = map.least(reach.out, reach.in);
  return best && joinMeeting(pair, best);
}
