import type { Floats } from './quaternion';
import { quatConjugate, quatMultiply, quatRotate, quatSlerp } from './quaternion';

/**
 * Rigid moves of space, packed as seven numbers: x, y, z in metres and a rotation (xyzw). A point p goes to R p + t, and a * b is first
 * b, then a.
 */

/** Where its rotation begins. */
const TURN = 3;

const _inverse = new Float64Array(4);
const _from = new Float64Array(3);
const _to = new Float64Array(3);

/** The move that changes nothing. */
export const stillRigid = (): Float64Array => Float64Array.of(0, 0, 0, 0, 0, 0, 1);

/** Writes the transform of a joint from world transforms (joints x 3, joints x 4). */
export function readRigid(
  positions: Floats,
  rotations: Floats,
  joint: number,
  out: Float64Array,
): Float64Array {
  for (let k = 0; k < 3; k++) out[k] = positions[joint * 3 + k]!;
  for (let k = 0; k < 4; k++) out[TURN + k] = rotations[joint * 4 + k]!;
  return out;
}

/** Writes where a point goes; `out` may be the point. */
export function moveByRigid(move: Float64Array, p: Floats, po: number, out: Floats, oo: number): Floats {
  quatRotate(move, TURN, p, po, out, oo);
  for (let k = 0; k < 3; k++) out[oo + k]! += move[k]!;
  return out;
}

/** Writes a * b; `out` may be either. */
export function multiplyRigid(a: Float64Array, b: Float64Array, out: Float64Array): Float64Array {
  quatRotate(a, TURN, b, 0, _to, 0);
  for (let k = 0; k < 3; k++) _to[k]! += a[k]!;
  quatMultiply(a, TURN, b, TURN, out, TURN);
  for (let k = 0; k < 3; k++) out[k] = _to[k]!;
  return out;
}

/** Writes the move that undoes another; `out` may be it. */
export function invertRigid(a: Float64Array, out: Float64Array): Float64Array {
  quatConjugate(a, TURN, _inverse, 0);
  for (let k = 0; k < 3; k++) _from[k] = -a[k]!;
  quatRotate(_inverse, 0, _from, 0, out, 0);
  for (let k = 0; k < 4; k++) out[TURN + k] = _inverse[k]!;
  return out;
}

/**
 * Writes the move a part of the way from one to another by what happens to one point: it goes straight from where the one takes it to
 * where the other does, and all turns about it the shorter way. `out` may be either move.
 */
export function blendRigid(
  a: Float64Array,
  b: Float64Array,
  w: number,
  point: Float64Array,
  out: Float64Array,
): Float64Array {
  moveByRigid(a, point, 0, _from, 0);
  moveByRigid(b, point, 0, _to, 0);
  for (let k = 0; k < 3; k++) _to[k] = _from[k]! + w * (_to[k]! - _from[k]!);
  quatSlerp(a, TURN, b, TURN, w, out, TURN);
  return carryTo(point, _to, out);
}

/** Gives a move, whose rotation stands, the translation that takes a point to a place. */
export function carryTo(point: Float64Array, place: Float64Array, move: Float64Array): Float64Array {
  quatRotate(move, TURN, point, 0, _from, 0);
  for (let k = 0; k < 3; k++) move[k] = place[k]! - _from[k]!;
  return move;
}
