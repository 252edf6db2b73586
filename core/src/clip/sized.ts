import { Memory } from '../memory/memory';
import { sizedSkeleton } from '../skeleton/skeleton';
import type { Clip } from './clip';

/** The motion on its skeleton so many times as large; its travel grows along. */
export function sizeMotion(clip: Clip, size: number, memory = new Memory()): Clip {
  const { travelBone } = clip;
  return {
    ...clip,
    id: `${clip.id}*${size}`,
    skeleton: sizedSkeleton(clip.skeleton, size, memory),
    translations: clip.translations.map((v) => v * size),
    travelBone: travelBone && {
      ...travelBone,
      root: travelBone.root.map((v, i) => (i % 3 === 2 ? v : v * size)),
    },
  };
}
