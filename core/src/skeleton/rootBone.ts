import { quatConjugate, quatMultiply, quatRotate } from '../math/quaternion';
import type { Skeleton } from './skeleton';
import { jointOfRole } from './skeleton';

/** World transform of what is above a joint; reused. */
const _turn = new Float64Array(4);
const _place = new Float64Array(3);

/** Writes the world transform of a joint's parent in a pose of local transforms; false for a top joint. */
function readAbove(
  { parents }: Skeleton,
  joint: number,
  rotations: Float64Array,
  translations: Float64Array,
): boolean {
  let up = parents[joint]!;
  if (up < 0) return false;
  for (let k = 0; k < 4; k++) _turn[k] = rotations[up * 4 + k]!;
  for (let k = 0; k < 3; k++) _place[k] = translations[up * 3 + k]!;
  for (up = parents[up]!; up >= 0; up = parents[up]!) {
    quatMultiply(rotations, up * 4, _turn, 0, _turn, 0);
    quatRotate(rotations, up * 4, _place, 0, _place, 0);
    for (let k = 0; k < 3; k++) _place[k]! += translations[up * 3 + k]!;
  }
  return true;
}

/**
 * Turns a joint's transform in a pose from scene space into one relative to its parent, in place; the joints above it are
 * taken as the pose has them.
 */
export function jointToLocal(
  skeleton: Skeleton,
  joint: number,
  rotations: Float64Array,
  translations: Float64Array,
): void {
  if (!readAbove(skeleton, joint, rotations, translations)) return;
  const q = joint * 4;
  const p = joint * 3;
  quatConjugate(_turn, 0, _turn, 0);
  quatMultiply(_turn, 0, rotations, q, rotations, q);
  for (let k = 0; k < 3; k++) translations[p + k]! -= _place[k]!;
  quatRotate(_turn, 0, translations, p, translations, p);
}

/** Turns the root bone's transform from scene space, as clips keep it, into one relative to its parent, in place. */
export const rootBoneToLocal = (
  skeleton: Skeleton,
  rotations: Float64Array,
  translations: Float64Array,
): void => jointToLocal(skeleton, skeleton.rootBone, rotations, translations);

/** Turns the root bone's transform from one relative to its parent into scene space, in place. */
export function rootBoneToScene(
  skeleton: Skeleton,
  rotations: Float64Array,
  translations: Float64Array,
): void {
  const { rootBone } = skeleton;
  if (!readAbove(skeleton, rootBone, rotations, translations)) return;
  quatMultiply(_turn, 0, rotations, rootBone * 4, rotations, rootBone * 4);
  quatRotate(_turn, 0, translations, rootBone * 3, translations, rootBone * 3);
  for (let k = 0; k < 3; k++) translations[rootBone * 3 + k]! += _place[k]!;
}

/** The heading of the rest pose in radians, from its hips and shoulders; 0 without roles for them. */
export function restHeading(skeleton: Skeleton): number {
  const { positions } = skeleton.rest;
  let [x, z] = [0, 0];
  for (const part of ['UpperLeg', 'UpperArm', 'FrontUpperLeg'] as const) {
    const left = jointOfRole(skeleton, `left${part}`);
    const right = jointOfRole(skeleton, `right${part}`);
    if (left < 0 || right < 0) continue;
    x += positions[left * 3]! - positions[right * 3]!;
    z += positions[left * 3 + 2]! - positions[right * 3 + 2]!;
  }
  return Math.hypot(x, z) < 1e-6 ? 0 : Math.atan2(-z, x);
}
