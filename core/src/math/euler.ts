import type { Floats } from './quaternion';
import { quatFromAxis, quatMultiply } from './quaternion';

/** Three different axes, 0 = x, 1 = y, 2 = z, in the order in which their rotations are multiplied. */
export type EulerOrder = readonly [number, number, number];

const _axis = new Float64Array(4);
const _matrix = new Float64Array(9);

/**
 * Writes the rotation R = R_i(a) R_j(b) R_k(c) of angles in radians, the product in the order of a BVH
 * joint's channels.
 */
export function quatFromEuler(
  a: number,
  b: number,
  c: number,
  order: EulerOrder,
  out: Floats,
  oo: number,
): Floats {
  quatFromAxis(+(order[0] === 0), +(order[0] === 1), +(order[0] === 2), a, out, oo);
  quatFromAxis(+(order[1] === 0), +(order[1] === 1), +(order[1] === 2), b, _axis, 0);
  quatMultiply(out, oo, _axis, 0, out, oo);
  quatFromAxis(+(order[2] === 0), +(order[2] === 1), +(order[2] === 2), c, _axis, 0);
  return quatMultiply(out, oo, _axis, 0, out, oo);
}

/** Cosine of the middle angle below which the outer two turn about one axis and the last is set to zero. */
const GIMBAL = 1e-9;

/**
 * Writes the angles a, b, c (radians, b in [-pi/2, pi/2]) with R = R_i(a) R_j(b) R_k(c) into `out[oo..oo+2]`.
 * Where the middle angle is a right angle the last one is 0.
 *
 * Near a right angle the last angle is read from small numbers and is uncertain by itself; the first is then taken from what is left of the
 * rotation without it, R R_k(-c) = R_i(a) R_j(b), whose numbers are large, so that the three together are the rotation all the same.
 */
export function eulerFromQuat(q: Floats, qo: number, order: EulerOrder, out: Floats, oo: number): Floats {
  const [i, j, k] = order;
  const parity = (j - i + 3) % 3 === 1 ? 1 : -1;
  const m = matrixFromQuat(q, qo, _matrix);
  const sine = parity * m[i * 3 + k]!;
  const cosine = Math.hypot(m[i * 3 + i]!, m[i * 3 + j]!);
  const c = cosine > GIMBAL ? Math.atan2(-parity * m[i * 3 + j]!, m[i * 3 + i]!) : 0;
  const [cosC, sinC] = [Math.cos(c), parity * Math.sin(c)];
  const withoutLast = (row: number): number => cosC * m[row * 3 + j]! + sinC * m[row * 3 + i]!;
  out[oo] = Math.atan2(parity * withoutLast(k), withoutLast(j));
  out[oo + 1] = Math.atan2(sine, cosine);
  out[oo + 2] = c;
  return out;
}

const TURN = 2 * Math.PI;
const nearest = (angle: number, to: number): number => angle - TURN * Math.round((angle - to) / TURN);

/**
 * Rewrites the angles at `e[o..o+2]` to the equal triple that is nearest to the one at `before[bo..]`, so that
 * curves of angles do not jump: each may move by whole turns, or all three to (a + pi, pi - b, c + pi).
 */
export function eulerNearest(e: Floats, o: number, before: Floats, bo: number): Floats {
  const a1 = nearest(e[o]!, before[bo]!);
  const b1 = nearest(e[o + 1]!, before[bo + 1]!);
  const c1 = nearest(e[o + 2]!, before[bo + 2]!);
  const a2 = nearest(e[o]! + Math.PI, before[bo]!);
  const b2 = nearest(Math.PI - e[o + 1]!, before[bo + 1]!);
  const c2 = nearest(e[o + 2]! + Math.PI, before[bo + 2]!);
  const d1 = Math.abs(a1 - before[bo]!) + Math.abs(b1 - before[bo + 1]!) + Math.abs(c1 - before[bo + 2]!);
  const d2 = Math.abs(a2 - before[bo]!) + Math.abs(b2 - before[bo + 1]!) + Math.abs(c2 - before[bo + 2]!);
  const first = d1 <= d2;
  e[o] = first ? a1 : a2;
  e[o + 1] = first ? b1 : b2;
  e[o + 2] = first ? c1 : c2;
  return e;
}

/** Writes the rotation matrix of a quaternion of about unit length, row by row. */
export function matrixFromQuat(q: Floats, o: number, out: Float64Array): Float64Array {
  const x = q[o]!;
  const y = q[o + 1]!;
  const z = q[o + 2]!;
  const w = q[o + 3]!;
  // Numbers of 32 bits are off unit length by their last digit, which is much where a small angle is read.
  const two = 2 / (x * x + y * y + z * z + w * w || 1);
  out[0] = 1 - two * (y * y + z * z);
  out[1] = two * (x * y - z * w);
  out[2] = two * (x * z + y * w);
  out[3] = two * (x * y + z * w);
  out[4] = 1 - two * (x * x + z * z);
  out[5] = two * (y * z - x * w);
  out[6] = two * (x * z - y * w);
  out[7] = two * (y * z + x * w);
  out[8] = 1 - two * (x * x + y * y);
  return out;
}
