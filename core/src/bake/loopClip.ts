import { checkClip } from '../clip/clip';
import type { Clip } from '../clip/clip';
import { prepareCycle } from '../loops/cycle';
import { examineLoop } from '../loops/loop';

/** What is done so that a baked clip repeats: nothing, its doubled last sample left out, or its end bent to meet its start as well. */
export type LoopEnd = 'as it is' | 'drop doubled' | 'close';

/**
 * A clip that is to be repeated from its end to its start. With `drop doubled` the last sample is left out where it is the first again,
 * wherever the body has gone to; with `close` the last 0.2 seconds are bent where they have to be, so that they always are, and it is left
 * out (see `prepareCycle`).
 */
export function loopClip(clip: Clip, end: LoopEnd): Clip {
  if (end === 'as it is' || clip.frames < 3) return clip;
  if (end === 'close') {
    const { clip: closed, period } = prepareCycle(clip, 0, clip.frames);
    return firstSamples(closed, period);
  }
  const { verdict, period } = examineLoop(clip);
  return verdict === 'doubled' ? firstSamples(clip, period) : clip;
}

function firstSamples(clip: Clip, frames: number): Clip {
  if (frames >= clip.frames) return clip;
  const { skeleton, translated, travelBone } = clip;
  return checkClip({
    ...clip,
    frames,
    rotations: clip.rotations.slice(0, frames * skeleton.names.length * 4),
    translations: clip.translations.slice(0, frames * translated.length * 3),
    ...(travelBone ? { travelBone: { ...travelBone, root: travelBone.root.slice(0, frames * 3) } } : {}),
  });
}
