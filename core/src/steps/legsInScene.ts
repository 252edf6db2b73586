import type { ScenePose, WorldPose } from '../clip/pose';
import { quatMultiply, quatRotate } from '../math/quaternion';
import type { Leg } from '../skeleton/legs';
import type { Skeleton } from '../skeleton/skeleton';

/** The joints from the root bone down to the ankles, parents first. */
export function chainOfLegs(skeleton: Skeleton, legs: readonly Leg[]): Int32Array {
  const joints = new Set([skeleton.rootBone]);
  for (const leg of legs)
    for (let j = leg.ankle; j !== skeleton.rootBone; j = skeleton.parents[j]!) joints.add(j);
  return Int32Array.from(joints).sort();
}

/** Whether a leg hangs on the root bone. */
export function hangsOnRoot(skeleton: Skeleton, leg: Leg): boolean {
  for (let j = leg.ankle; j >= 0; j = skeleton.parents[j]!) if (j === skeleton.rootBone) return true;
  return false;
}

/** Writes the world transforms of a chain from the root bone down, of a pose whose root bone is in scene space. */
export function legsInScene(skeleton: Skeleton, pose: ScenePose, chain: Int32Array, world: WorldPose): void {
  const { rotations: q, positions: p } = world;
  const { rootBone, parents } = skeleton;
  for (let i = 0; i < chain.length; i++) {
    const j = chain[i]!;
    if (j === rootBone) {
      for (let k = 0; k < 4; k++) q[j * 4 + k] = pose.rotations[j * 4 + k]!;
      for (let k = 0; k < 3; k++) p[j * 3 + k] = pose.translations[j * 3 + k]!;
      continue;
    }
    const parent = parents[j]!;
    quatMultiply(q, parent * 4, pose.rotations, j * 4, q, j * 4);
    quatRotate(q, parent * 4, pose.translations, j * 3, p, j * 3);
    for (let k = 0; k < 3; k++) p[j * 3 + k]! += p[parent * 3 + k]!;
  }
}
