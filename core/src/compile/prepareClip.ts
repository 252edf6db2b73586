import type { Clip } from '../clip/clip';
import { examineLoop } from '../loops/loop';
import type { Loop } from '../loops/loop';
import { clipOnSkeleton } from '../steps/mapClip';
import { mirrorClip } from '../clip/mirror';
import { rootTrack } from '../clip/root';
import { sizedClip } from '../clip/sized';
import { withOwnSteps } from '../steps/steps';
import { restoreTravel, scaleTravelToFeet, straightenTravel } from '../travel/travel';
import type { Scene, Segment } from '../scene/scene';
import type { Skeleton } from '../skeleton/skeleton';

/** A clip as a segment uses it, and how its part loops. */
export interface PreparedClip {
  readonly clip: Clip;
  /** Whether it was recorded on another skeleton, and is mapped onto the character's. */
  readonly mapped: boolean;
  /** What was found of the part as it was recorded; null where it is played once. */
  readonly verdict: Loop['verdict'] | null;
}

/** Travel (metres) below which a clip goes nowhere, and a path has to take its length from the feet. */
const STAYS = 0.2;

const edited = new WeakMap<Clip, WeakMap<object, Clip>>();

/** The clip with the user's own steps. */
function editedClip(clip: Clip, steps: Scene['steps']): Clip {
  const own = steps[clip.id];
  if (!own) return clip;
  let known = edited.get(clip);
  if (!known) edited.set(clip, (known = new WeakMap()));
  let made = known.get(own);
  if (!made) known.set(own, (made = withOwnSteps(clip, own)));
  return made;
}

/**
 * The clip as a segment uses it: with the user's steps, on the character's skeleton, mirrored, its travel restored,
 * scaled or straightened. It is made as large as the character. Every stage is made once for a clip, so that segments share it.
 *
 * @throws InputError where the clip does not fit the skeleton, or its steps name joints that it does not have
 */
export function prepareClip(
  original: Clip,
  segment: Segment,
  skeleton: Skeleton,
  size: number,
  steps: Scene['steps'],
): PreparedClip {
  const verdict = segment.loop ? examineLoop(original, segment.in, segment.out).verdict : null;
  const own = editedClip(original, steps);
  const carried = clipOnSkeleton(own, skeleton);
  const mapped = carried !== own;
  let clip = sizedClip(carried, size);
  if (segment.mirror) clip = mirrorClip(clip);
  if (segment.travel === 'restored' || (segment.travel === 'path' && staysInPlace(clip)))
    clip = restoreTravel(clip).clip;
  else if (segment.travel === 'scaled') clip = scaleTravelToFeet(clip);
  if (segment.straighten) clip = straightenTravel(clip, segment.in, segment.out, verdict);
  return { clip, mapped, verdict };
}

function staysInPlace(clip: Clip): boolean {
  const root = rootTrack(clip);
  const last = (clip.frames - 1) * 3;
  return Math.hypot(root[last]! - root[0]!, root[last + 1]! - root[1]!) < STAYS;
}
