import type { RootPose, ScenePose } from '../clip/pose';
import { written } from '../clip/pose';
import { shortestTurn } from '../math/floorMove';
import { quatSlerp, quatTurn } from '../math/quaternion';
import { slerpRotations } from '../math/rotations';

/**
 * A pose blended with another one by weight w: roots on the floor the shorter way round, the root bone relative to its root,
 * rotations by slerp. Takes over the memory of the first; the second is spoilt.
 */
export function blendPoses(rootBone: number, w: number, pose: ScenePose, other: ScenePose): ScenePose {
  if (w <= 0) return pose;
  const out = toRootSpace(pose, rootBone);
  const to = toRootSpace(other, rootBone);
  slerpRotations(out.rotations, to.rotations, out.rotations.length / 4, w);
  for (let p = 0; p < out.translations.length; p += 3) blendPlace(p, w, out, to);
  blendRoots(w, out, to);
  return fromRootSpace(out, rootBone);
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
  out: RootPose,
  other: RootPose,
): void {
  quatSlerp(out.rotations, rootBone * 4, other.rotations, rootBone * 4, w, out.rotations, rootBone * 4);
  for (let i = 0; i < translated.length; i++) blendPlace(translated[i]! * 3, w, out, other);
  blendRoots(w, out, other);
}

function blendPlace(p: number, w: number, { translations }: RootPose, other: RootPose): void {
  for (let k = p; k < p + 3; k++) translations[k]! += w * (other.translations[k]! - translations[k]!);
}

function blendRoots(w: number, { root }: RootPose, other: RootPose): void {
  root[0]! += w * (other.root[0]! - root[0]!);
  root[1]! += w * (other.root[1]! - root[1]!);
  root[2]! += w * shortestTurn(other.root[2]! - root[2]!);
}

/** A pose with its root bone relative to its root on the floor; takes over the memory of the one in scene space. */
export function toRootSpace(pose: ScenePose, rootBone: number): RootPose {
  const { root, translations } = pose;
  const s = Math.sin(root[2]!);
  const c = Math.cos(root[2]!);
  const x = translations[rootBone * 3]! - root[0]!;
  const z = translations[rootBone * 3 + 2]! - root[1]!;
  translations[rootBone * 3] = x * c - z * s;
  translations[rootBone * 3 + 2] = x * s + z * c;
  quatTurn(pose.rotations, rootBone * 4, -root[2]!);
  return written(pose);
}

/** The way back: root bone in the scene = root * root bone; takes over the memory as well. */
export function fromRootSpace(pose: RootPose, rootBone: number): ScenePose {
  const { root, translations } = pose;
  const s = Math.sin(root[2]!);
  const c = Math.cos(root[2]!);
  const x = translations[rootBone * 3]!;
  const z = translations[rootBone * 3 + 2]!;
  translations[rootBone * 3] = root[0]! + x * c + z * s;
  translations[rootBone * 3 + 2] = root[1]! - x * s + z * c;
  quatTurn(pose.rotations, rootBone * 4, root[2]!);
  return written(pose);
}
