import type { Floats } from '../math/quaternion';
import { quatConjugate, quatMultiply, quatRotate } from '../math/quaternion';

/** A limb of two bones: joints of its start, its bend and its end. */
export interface Limb {
  readonly upper: number;
  readonly lower: number;
  readonly end: number;
}

/** Share of a limb's full length to which it may stretch: a straight knee has no side to bend to. */
export const FULL_REACH = 0.9995;

const _toEnd = new Float64Array(3);
const _toBend = new Float64Array(3);
const _toTarget = new Float64Array(3);
const _axis = new Float64Array(3);
const _swing = new Float64Array(4);
const _bend = new Float64Array(4);
const _aim = new Float64Array(4);
const _inverse = new Float64Array(4);

/**
 * Brings the end of a limb to a target by analytic two-bone inverse kinematics (law of cosines): the bend opens or closes
 * in its own plane, then the whole limb swings the shortest way onto the target. The end keeps its world rotation. Works
 * on world transforms and writes both world and local rotations of the three joints.
 *
 * @param rotations local, joints x 4; `worldRotations`, joints x 4, and `positions`, joints x 3, metres, of the same pose
 * @param target 3 numbers from `to`, metres
 * @param bendAxis world axis (3 numbers) about which a straight limb bends
 * @returns how far the end stays from the target, metres: what the limb cannot reach
 */
export function reach(
  parents: Int32Array,
  limb: Limb,
  target: Float64Array,
  to: number,
  bendAxis: Float64Array,
  rotations: Float64Array,
  worldRotations: Float64Array,
  positions: Float64Array,
): number {
  const { upper, lower, end } = limb;
  between(positions, upper * 3, positions, end * 3, _toEnd);
  between(positions, upper * 3, positions, lower * 3, _toBend);
  between(positions, upper * 3, target, to, _toTarget);
  const la = length(_toBend);
  const lb = distance(positions, lower * 3, end * 3);
  const current = length(_toEnd);
  const wanted = length(_toTarget);
  if (!(la > 1e-9) || !(lb > 1e-9) || !(wanted > 1e-9) || !(current > 1e-9)) return wanted;
  const far = Math.min(Math.max(wanted, Math.abs(la - lb) * 1.001 + 1e-6), (la + lb) * FULL_REACH);
  // Angles at the start and at the bend, before and after.
  const start0 = angleBetween(_toEnd, _toBend);
  const start1 = Math.acos(clampCosine((la * la + far * far - lb * lb) / (2 * la * far)));
  const bend0 = Math.acos(clampCosine((la * la + lb * lb - current * current) / (2 * la * lb)));
  const bend1 = Math.acos(clampCosine((la * la + lb * lb - far * far) / (2 * la * lb)));
  cross(_toEnd, _toBend, _axis);
  if (length(_axis) < 1e-6 * la * current) _axis.set(bendAxis);
  rotationAbout(_axis, start1 - start0, _swing);
  rotationAbout(_axis, bend1 - bend0, _bend);
  cross(_toEnd, _toTarget, _axis);
  rotationAbout(_axis, angleBetween(_toEnd, _toTarget), _aim);
  quatMultiply(_aim, 0, _swing, 0, _swing, 0);
  quatMultiply(_swing, 0, worldRotations, upper * 4, worldRotations, upper * 4);
  quatMultiply(_swing, 0, _bend, 0, _bend, 0);
  quatMultiply(_bend, 0, worldRotations, lower * 4, worldRotations, lower * 4);
  quatRotate(_swing, 0, _toBend, 0, _toBend, 0);
  between(positions, lower * 3, positions, end * 3, _toEnd);
  quatRotate(_bend, 0, _toEnd, 0, _toEnd, 0);
  for (let k = 0; k < 3; k++) {
    positions[lower * 3 + k] = positions[upper * 3 + k]! + _toBend[k]!;
    positions[end * 3 + k] = positions[lower * 3 + k]! + _toEnd[k]!;
  }
  toLocal(parents, upper, worldRotations, rotations);
  toLocal(parents, lower, worldRotations, rotations);
  toLocal(parents, end, worldRotations, rotations);
  return Math.hypot(
    positions[end * 3]! - target[to]!,
    positions[end * 3 + 1]! - target[to + 1]!,
    positions[end * 3 + 2]! - target[to + 2]!,
  );
}

/** Writes a joint's local rotation from the world rotations of itself and its parent. */
function toLocal(parents: Int32Array, joint: number, world: Float64Array, out: Floats): void {
  const parent = parents[joint]!;
  if (parent < 0) {
    for (let k = 0; k < 4; k++) out[joint * 4 + k] = world[joint * 4 + k]!;
    return;
  }
  quatConjugate(world, parent * 4, _inverse, 0);
  quatMultiply(_inverse, 0, world, joint * 4, out, joint * 4);
}

function between(a: Float64Array, ao: number, b: Float64Array, bo: number, out: Float64Array): void {
  for (let k = 0; k < 3; k++) out[k] = b[bo + k]! - a[ao + k]!;
}

const length = (v: Float64Array): number => Math.sqrt(v[0]! * v[0]! + v[1]! * v[1]! + v[2]! * v[2]!);

function distance(p: Float64Array, a: number, b: number): number {
  const [x, y, z] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
  return Math.sqrt(x * x + y * y + z * z);
}

const clampCosine = (c: number): number => (c > 1 ? 1 : c < -1 ? -1 : c);

function cross(a: Float64Array, b: Float64Array, out: Float64Array): void {
  const x = a[1]! * b[2]! - a[2]! * b[1]!;
  const y = a[2]! * b[0]! - a[0]! * b[2]!;
  const z = a[0]! * b[1]! - a[1]! * b[0]!;
  out[0] = x;
  out[1] = y;
  out[2] = z;
}

/** Angle between two vectors; exact for small ones, where the arc cosine is not. */
function angleBetween(a: Float64Array, b: Float64Array): number {
  const x = a[1]! * b[2]! - a[2]! * b[1]!;
  const y = a[2]! * b[0]! - a[0]! * b[2]!;
  const z = a[0]! * b[1]! - a[1]! * b[0]!;
  return Math.atan2(Math.sqrt(x * x + y * y + z * z), a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!);
}

/** Rotation about an axis of any length; none where the axis has no length. */
function rotationAbout(axis: Float64Array, radians: number, out: Float64Array): void {
  const n = length(axis);
  const s = n > 1e-12 ? Math.sin(radians / 2) / n : 0;
  out[0] = axis[0]! * s;
  out[1] = axis[1]! * s;
  out[2] = axis[2]! * s;
  out[3] = n > 1e-12 ? Math.cos(radians / 2) : 1;
}
