import { InputError } from '../math/errors';
import type { MaskEntry } from '../scene/lane';
import { jointNamed } from '../skeleton/jointNamed';
import type { Skeleton } from '../skeleton/skeleton';

/** The joints that a layer moves, and how much of it each takes. */
export interface Mask {
  readonly joints: Int32Array;
  /** One weight for each of them, above 0 up to 1. */
  readonly weights: Float64Array;
}

/**
 * The joints of a mask. A bone is named by its role or by its joint's name; `*` behind it takes the chain below, over
 * whose first `softness` joints the weight grows evenly to the full one. Later entries win. No entries mean every joint.
 *
 * @throws InputError `mask` where the body has no such bone
 */
export function makeMask(skeleton: Skeleton, entries: readonly MaskEntry[], softness: number): Mask {
  const { names, parents } = skeleton;
  const weights = new Float64Array(names.length).fill(entries.length === 0 ? 1 : 0);
  for (const { bone, weight } of entries) {
    const chain = bone.endsWith('*');
    const name = chain ? bone.slice(0, -1) : bone;
    const top = jointNamed(skeleton, name);
    if (top < 0) {
      throw new InputError('mask', `The body has no bone ${name}.`, {
        place: { bone: name },
        hint: `Name a role such as leftUpperArm, or a joint such as ${names[Math.min(1, names.length - 1)]}.`,
      });
    }
    const depth = new Int32Array(names.length).fill(-1);
    depth[top] = 0;
    for (let j = top; j < names.length; j++) {
      const parent = parents[j]!;
      if (chain && j > top && parent >= 0 && depth[parent]! >= 0) depth[j] = depth[parent]! + 1;
      if (depth[j]! < 0) continue;
      const share = chain ? Math.min(1, (depth[j]! + 1) / (softness + 1)) : 1;
      weights[j] = weight * share;
    }
  }
  const joints = Int32Array.from(weights.keys()).filter((j) => weights[j]! > 0);
  return { joints, weights: Float64Array.from(joints, (j) => weights[j]!) };
}
