import type { Memory } from '../memory/memory';
import { derivation } from '../memory/memory';
import type { Clip } from '../clip/clip';
import { examineLoop } from '../loops/loop';
import type { Loop } from '../loops/loop';
import { requireLikeLegs } from '../skeleton/likeLegs';
import { clipOnSkeleton } from '../steps/mapClip';
import type { Dials } from '../clip/dials';
import { combinedDials } from '../clip/dials';
import { dialClip } from '../steps/dialClip';
import { mirrorClip, sizedClip } from '../steps/variants';
import { rootTrack } from '../clip/root';
import { withOwnSteps } from '../steps/steps';
import { restoreTravel, scaleTravelToFeet, straightenTravel } from '../travel/travel';
import type { Scene } from '../scene/scene';
import type { OwnSteps } from '../steps/steps';
import type { SegmentSettings } from '../scene/segment';
import type { Skeleton } from '../skeleton/skeleton';

/** A clip as a segment uses it, and how its part loops. */
export interface PreparedClip {
  /** As it is in the library. */
  readonly original: Clip;
  readonly clip: Clip;
  /** Whether it was recorded on another skeleton, and is mapped onto the character's. */
  readonly mapped: boolean;
  /** What was found of the part as it was recorded; null where it is played once. */
  readonly verdict: Loop['verdict'] | null;
}

/** Travel (metres) below which a clip goes nowhere, and a path has to take its length from the feet. */
const STAYS = 0.2;

const edited = derivation('clip with own steps', 500, (memory, clip: Clip, steps: OwnSteps): Clip =>
  withOwnSteps(clip, steps, memory),
);

const prepared = derivation(
  'prepared clip',
  5000,
  (
    memory,
    original: Clip,
    segment: SegmentSettings,
    skeleton: Skeleton,
    size: number,
    steps: OwnSteps | undefined,
    dials: Dials,
  ): PreparedClip => {
    const verdict = segment.loop
      ? examineLoop(original, segment.in, segment.out, null, memory).verdict
      : null;
    if (!segment.otherLegs) requireLikeLegs(original, skeleton);
    const own = steps ? memory.recall(edited, original, steps) : original;
    const carried = clipOnSkeleton(own, skeleton, memory);
    const mapped = carried !== own;
    let clip = sizedClip(carried, size, memory);
    if (segment.mirror) clip = mirrorClip(clip, memory);
    clip = dialClip(clip, combinedDials(dials, segment.dials), memory);
    if (segment.travel === 'restored' || (segment.travel === 'path' && staysInPlace(clip, memory)))
      clip = restoreTravel(clip, memory).clip;
    else if (segment.travel === 'scaled') clip = scaleTravelToFeet(clip, memory);
    if (segment.straighten) clip = straightenTravel(clip, segment.in, segment.out, verdict, memory);
    return { original, clip, mapped, verdict };
  },
);

/**
 * The clip as a segment uses it: with the user's steps, on the character's skeleton, mirrored, its travel restored,
 * scaled or straightened. It is made as large as the character. Every stage is made once for a clip, so that segments share it.
 *
 * @throws InputError where the clip does not fit the skeleton, was recorded on other legs, or its steps name joints that it does not have
 */
export const prepareClip = (
  original: Clip,
  segment: SegmentSettings,
  skeleton: Skeleton,
  size: number,
  steps: Scene['steps'],
  dials: Dials,
  memory: Memory,
): PreparedClip => memory.recall(prepared, original, segment, skeleton, size, steps[original.id], dials);

function staysInPlace(clip: Clip, memory: Memory): boolean {
  const root = rootTrack(clip, memory);
  const last = (clip.frames - 1) * 3;
  return Math.hypot(root[last]! - root[0]!, root[last + 1]! - root[1]!) < STAYS;
}
