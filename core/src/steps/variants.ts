import type { Clip } from '../clip/clip';
import { mirrorMotion, mirrorPartners } from '../clip/mirror';
import { sizeMotion } from '../clip/sized';
import { derivation, Memory } from '../memory/memory';
import { inheritSteps } from './steps';

const mirrored = derivation('mirrored clip', 500, (memory, clip: Clip): Clip => {
  const partner = mirrorPartners(clip.skeleton);
  return inheritSteps(mirrorMotion(clip), clip, (joint) => partner[joint]!, memory);
});

/** The clip with left and right swapped, its steps as well; see `mirrorMotion`. */
export const mirrorClip = (clip: Clip, memory = new Memory()): Clip => memory.recall(mirrored, clip);

const sized = derivation('clip in size', 500, (memory, clip: Clip, size: number): Clip =>
  inheritSteps(sizeMotion(clip, size, memory), clip, undefined, memory),
);

/** The clip on its skeleton so many times as large: its travel grows along, its steps stay. */
export const sizedClip = (clip: Clip, size: number, memory = new Memory()): Clip =>
  size === 1 ? clip : memory.recall(sized, clip, size);
