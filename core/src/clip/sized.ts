import { sizedSkeleton } from '../skeleton/skeleton';
import type { Clip } from './clip';
import { inheritSteps } from '../steps/steps';

const sized = new WeakMap<Clip, Map<number, Clip>>();

/** The clip on its skeleton so many times as large: its travel grows along, its steps stay. Made once for each size. */
export function sizedClip(clip: Clip, size: number): Clip {
  if (size === 1) return clip;
  let bySize = sized.get(clip);
  if (!bySize) sized.set(clip, (bySize = new Map()));
  let made = bySize.get(size);
  if (!made) {
    const { travelBone } = clip;
    const larger: Clip = {
      ...clip,
      id: `${clip.id}*${size}`,
      skeleton: sizedSkeleton(clip.skeleton, size),
      translations: clip.translations.map((v) => v * size),
      travelBone: travelBone && {
        ...travelBone,
        root: travelBone.root.map((v, i) => (i % 3 === 2 ? v : v * size)),
      },
    };
    made = inheritSteps(larger, clip);
    bySize.set(size, made);
  }
  return made;
}
