import type { RootPose, ScenePose } from '../clip/pose';
import { written } from '../clip/pose';
import { shortestTurn } from '../math/floorMove';
import { quatCopy, quatSlerp, quatTurn } from '../math/quaternion';
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

/** Which way round two sides are blended that come to stand opposite each other: theirs at whole frames, followed from the middle. */
export interface BlendBranch {
  /** The first of the frames. */
  readonly start: number;
  /** Heading of the second less that of the first at each frame, radians, without jumps. */
  readonly turns: Float64Array;
  /** Joints that come near half a turn apart. */
  readonly joints: Int32Array;
  /** frames x joints x 4, each of a sign that goes on from frame to frame, the root bone relative to its root. */
  readonly from: Float64Array;
  readonly to: Float64Array;
  /** joints x 4. */
  readonly scratch: Float64Array;
}

/** A pose blended with another one as `blendPoses` does, but all the way round the way that the branch says. */
export function blendAlong(
  branch: BlendBranch,
  frame: number,
  rootBone: number,
  w: number,
  pose: ScenePose,
  other: ScenePose,
): ScenePose {
  const out = toRootSpace(pose, rootBone);
  const to = toRootSpace(other, rootBone);
  blendBodies(branch, frame, w, out, to);
  const { turns } = branch;
  const x = Math.min(Math.max(frame - branch.start, 0), turns.length - 1);
  const first = Math.floor(x);
  const turn = turns[first]! + (x - first) * (turns[Math.min(first + 1, turns.length - 1)]! - turns[first]!);
  const heading = out.root[2]!;
  const difference = turn + shortestTurn(to.root[2]! - heading - turn);
  blendRoots(w, out, to);
  out.root[2] = heading + w * difference;
  return fromRootSpace(out, rootBone);
}

/** Blends all but the roots of two poses into the first, joints that come near half a turn apart the way that the branch says. */
export function blendBodies(
  branch: BlendBranch | null,
  frame: number,
  w: number,
  out: RootPose,
  to: RootPose,
): void {
  if (!branch) slerpRotations(out.rotations, to.rotations, out.rotations.length / 4, w);
  else {
    const { joints, turns, scratch } = branch;
    const near =
      Math.round(Math.min(Math.max(frame - branch.start, 0), turns.length - 1)) * joints.length * 4;
    for (let i = 0; i < joints.length; i++) {
      const o = joints[i]! * 4;
      const r = near + i * 4;
      const sign = signTo(out.rotations, o, branch.from, r) * signTo(to.rotations, o, branch.to, r);
      slerpSigned(out.rotations, to.rotations, o, w, sign, scratch, i * 4);
    }
    slerpRotations(out.rotations, to.rotations, out.rotations.length / 4, w);
    for (let i = 0; i < joints.length; i++) quatCopy(scratch, i * 4, out.rotations, joints[i]! * 4);
  }
  for (let p = 0; p < out.translations.length; p += 3) blendPlace(p, w, out, to);
}

/** Whether a rotation is written with the sign of another one (1) or the other (-1). */
const signTo = (q: Float64Array, o: number, as: Float64Array, r: number): number =>
  q[o]! * as[r]! + q[o + 1]! * as[r + 1]! + q[o + 2]! * as[r + 2]! + q[o + 3]! * as[r + 3]! < 0 ? -1 : 1;

/** Cosine from which on two rotations are blended linearly. */
const NEARLY_EQUAL = 1 - 1e-9;

/** Slerp between two rotations at `o`, the second one's sign as given: also the longer way round. */
function slerpSigned(
  a: Float64Array,
  b: Float64Array,
  o: number,
  t: number,
  sign: number,
  out: Float64Array,
  oo: number,
): void {
  let dot = 0;
  for (let k = 0; k < 4; k++) dot += a[o + k]! * b[o + k]! * sign;
  const angle = Math.acos(Math.min(1, Math.max(-1, dot)));
  const straight = Math.abs(dot) > NEARLY_EQUAL;
  const wa = straight ? 1 - t : Math.sin((1 - t) * angle);
  const wb = (straight ? t : Math.sin(t * angle)) * sign;
  let square = 0;
  for (let k = 0; k < 4; k++) {
    const v = wa * a[o + k]! + wb * b[o + k]!;
    out[oo + k] = v;
    square += v * v;
  }
  const n = square > 0 ? 1 / Math.sqrt(square) : 1;
  for (let k = 0; k < 4; k++) out[oo + k]! *= n;
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
