import type { Pose } from '../clip/pose';
import { shortestTurn } from '../math/floorMove';
import { quatSlerp, quatTurn } from '../math/quaternion';
import { slerpRotations } from '../math/rotations';

/**
 * Blends another pose (which is spoilt) into `out` with weight w: roots on the floor the shorter way round, the root bone
 * relative to its root, rotations by slerp. Both root bones are in scene space.
 */
export function blendPoses(rootBone: number, w: number, out: Pose, other: Pose): void {
  if (w <= 0) return;
  toRoot(out, rootBone);
  toRoot(other, rootBone);
  slerpRotations(out.rotations, other.rotations, out.rotations.length / 4, w);
  for (let p = 0; p < out.translations.length; p += 3) blendPlace(p, w, out, other);
  blendRoots(w, out, other);
  fromRoot(out, rootBone);
}

/**
 * The same for places, roots and root bones alone, of poses whose root bones are relative to their roots; they stay so.
 *
 * @param translated the joints that move relative to their parents, the root bone among them; all others are at rest
 */
export function blendRootBones(
  rootBone: number,
  translated: Int32Array,
  w: number,
  out: Pose,
  other: Pose,
): void {
  quatSlerp(out.rotations, rootBone * 4, other.rotations, rootBone * 4, w, out.rotations, rootBone * 4);
  for (let i = 0; i < translated.length; i++) blendPlace(translated[i]! * 3, w, out, other);
  blendRoots(w, out, other);
}

function blendPlace(p: number, w: number, { translations }: Pose, other: Pose): void {
  for (let k = p; k < p + 3; k++) translations[k]! += w * (other.translations[k]! - translations[k]!);
}

function blendRoots(w: number, { root }: Pose, other: Pose): void {
  root[0]! += w * (other.root[0]! - root[0]!);
  root[1]! += w * (other.root[1]! - root[1]!);
  root[2]! += w * shortestTurn(other.root[2]! - root[2]!);
}

/** Makes the root bone relative to the pose's root. */
export function toRoot(pose: Pose, rootBone: number): void {
  const { root, translations } = pose;
  const s = Math.sin(root[2]!);
  const c = Math.cos(root[2]!);
  const x = translations[rootBone * 3]! - root[0]!;
  const z = translations[rootBone * 3 + 2]! - root[1]!;
  translations[rootBone * 3] = x * c - z * s;
  translations[rootBone * 3 + 2] = x * s + z * c;
  quatTurn(pose.rotations, rootBone * 4, -root[2]!);
}

/** Undoes `toRoot`: world root bone = root * local root bone. */
export function fromRoot(pose: Pose, rootBone: number): void {
  const { root, translations } = pose;
  const s = Math.sin(root[2]!);
  const c = Math.cos(root[2]!);
  const x = translations[rootBone * 3]!;
  const z = translations[rootBone * 3 + 2]!;
  translations[rootBone * 3] = root[0]! + x * c + z * s;
  translations[rootBone * 3 + 2] = root[1]! - x * s + z * c;
  quatTurn(pose.rotations, rootBone * 4, root[2]!);
}
