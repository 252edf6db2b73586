import { quatFromAxis, quatFromBasis, quatMultiply } from '../math/quaternion';

/** Below this length, metres, a direction is none. */
const NOWHERE = 1e-9;

const _right = new Float64Array(3);
const _up = new Float64Array(3);
const _back = new Float64Array(3);
const _roll = new Float64Array(4);

/**
 * Writes the rotation of a camera that looks from a place at a point, upright but for its roll. One that looks straight up or down has the
 * top of its picture where -Z or +Z is; one whose aim is at its own place looks along -Z.
 *
 * @param rollDegrees by which it is turned to the left about the direction in which it looks
 */
export function aimCamera(
  place: ArrayLike<number>,
  aim: ArrayLike<number>,
  rollDegrees: number,
  out: Float64Array,
): Float64Array {
  for (let k = 0; k < 3; k++) _back[k] = place[k]! - aim[k]!;
  const length = Math.hypot(_back[0]!, _back[1]!, _back[2]!);
  if (length < NOWHERE) _back.set([0, 0, 1]);
  else for (let k = 0; k < 3; k++) _back[k]! /= length;
  const level = Math.hypot(_back[0]!, _back[2]!);
  if (level < NOWHERE) _right.set([1, 0, 0]);
  else _right.set([_back[2]! / level, 0, -_back[0]! / level]);
  const [rx, rz] = [_right[0]!, _right[2]!];
  const [bx, by, bz] = [_back[0]!, _back[1]!, _back[2]!];
  _up.set([by * rz, bz * rx - bx * rz, -by * rx]);
  quatFromBasis(_right, _up, _back, out, 0);
  if (rollDegrees === 0) return out;
  quatFromAxis(0, 0, 1, (rollDegrees * Math.PI) / 180, _roll, 0);
  return quatMultiply(out, 0, _roll, 0, out, 0) as Float64Array;
}
