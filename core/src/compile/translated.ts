import type { Clip } from '../clip/clip';
import type { Memory } from '../memory/memory';
import { derivation } from '../memory/memory';
import type { Skeleton } from '../skeleton/skeleton';
import type { PreparedClip } from './prepareClip';

const jointList = derivation('joint list', 500, (_, joined: string): Int32Array =>
  Int32Array.from(joined.split(','), Number),
);

/** All joints that move relative to their parents in any of the clips; the root bone first. One object for equal lists. */
export function unionOfTranslated(
  prepared: Iterable<PreparedClip>,
  skeleton: Skeleton,
  memory: Memory,
): Int32Array {
  const joints = new Set([skeleton.rootBone]);
  for (const { clip } of prepared)
    if (clip.translated.length > 1) clip.translated.forEach((j) => joints.add(j));
  return memory.recall(jointList, [...joints].join());
}

const widened = derivation('clip with translations', 500, (_, clip: Clip, joints: Int32Array): Clip => {
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
  return { ...clip, translated: joints, translations };
});

/** The clip with translations of the given joints; those that it does not move keep their rest offset. */
export const withTranslated = (clip: Clip, joints: Int32Array, memory: Memory): Clip =>
  clip.translated.length === joints.length && joints.every((j, i) => clip.translated[i] === j)
    ? clip
    : memory.recall(widened, clip, joints);
