import type { Clip } from '../clip/clip';
import { inheritSteps } from '../steps/steps';
import type { Skeleton } from '../skeleton/skeleton';
import type { PreparedClip } from './prepareClip';

/**
 * All joints that move relative to their parents in any of the clips; the root bone first.
 *
 * @param before what they were last time, which is given back where they are the same
 */
export function unionOfTranslated(
  prepared: readonly PreparedClip[],
  skeleton: Skeleton,
  before?: Int32Array,
): Int32Array {
  const joints = new Set([skeleton.rootBone]);
  for (const { clip } of prepared)
    if (clip.translated.length > 1) clip.translated.forEach((j) => joints.add(j));
  const union = Int32Array.from(joints);
  return before?.length === union.length && union.every((j, i) => before[i] === j) ? before : union;
}

const widened = new WeakMap<Clip, { key: string; clip: Clip }>();

/** The clip with translations of the given joints; those that it does not move keep their rest offset. */
export function withTranslated(clip: Clip, joints: Int32Array): Clip {
  if (clip.translated.length === joints.length && joints.every((j, i) => clip.translated[i] === j))
    return clip;
  const key = joints.join();
  let known = widened.get(clip);
  if (known?.key !== key) {
    const translations = new Float32Array(clip.frames * joints.length * 3);
    const from = Array.from(joints, (j) => clip.translated.indexOf(j));
    const { restTranslations } = clip.skeleton;
    for (let f = 0; f < clip.frames; f++)
      joints.forEach((joint, i) => {
        for (let k = 0; k < 3; k++) {
          translations[(f * joints.length + i) * 3 + k] =
            from[i]! >= 0
              ? clip.translations[(f * clip.translated.length + from[i]!) * 3 + k]!
              : restTranslations[joint * 3 + k]!;
        }
      });
    known = { key, clip: inheritSteps({ ...clip, translated: joints, translations }, clip) };
    widened.set(clip, known);
  }
  return known.clip;
}
