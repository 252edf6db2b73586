/**
 * Rigid moves of the floor, SE(2): a translation (x, z) in metres and a turn in radians about the vertical,
 * positive towards +X. Packed as three numbers: x, z, turn. A point turns by
 * R(turn)(x, z) = (x cos + z sin, -x sin + z cos), and a * b = (a.p + R(a.turn) b.p, a.turn + b.turn).
 */

/** A floor move, or a place with a heading on the floor. */
export interface FloorMove {
  readonly x: number;
  readonly z: number;
  /** Radians, positive towards +X. */
  readonly turn: number;
}

/** The move that changes nothing. */
export const STILL: FloorMove = { x: 0, z: 0, turn: 0 };

/** First a move b, then a. */
export function composeMoves(a: FloorMove, b: FloorMove): FloorMove {
  const s = Math.sin(a.turn);
  const c = Math.cos(a.turn);
  return { x: a.x + b.x * c + b.z * s, z: a.z - b.x * s + b.z * c, turn: a.turn + b.turn };
}

/** The move that undoes m. */
export function invertMove(m: FloorMove): FloorMove {
  const s = Math.sin(m.turn);
  const c = Math.cos(m.turn);
  return { x: -(m.x * c - m.z * s), z: -(m.x * s + m.z * c), turn: -m.turn };
}

/** Half turns below which the sum of the rotated steps is the plain multiple. */
const STRAIGHT = 1e-9;

/**
 * Writes m applied n times (x, z, turn) into `out[oo..]`; n may be any real number. The translations are a
 * geometric series of rotations, summed in closed form, so a hundred cycles cost and err no more than one.
 */
export function powerMove(m: FloorMove, n: number, out: Float64Array, oo: number): Float64Array {
  const half = m.turn / 2;
  const base = Math.sin(half);
  const length = Math.abs(base) < STRAIGHT ? n : Math.sin(n * half) / base;
  const bend = (n - 1) * half;
  const s = Math.sin(bend) * length;
  const c = Math.cos(bend) * length;
  out[oo] = m.x * c + m.z * s;
  out[oo + 1] = -m.x * s + m.z * c;
  out[oo + 2] = m.turn * n;
  return out;
}

/** Writes a * b of packed moves; `out` may be either. */
export function multiplyMoves(
  a: Float64Array,
  ao: number,
  b: Float64Array,
  bo: number,
  out: Float64Array,
  oo: number,
): Float64Array {
  const s = Math.sin(a[ao + 2]!);
  const c = Math.cos(a[ao + 2]!);
  const bx = b[bo]!;
  const bz = b[bo + 1]!;
  out[oo] = a[ao]! + bx * c + bz * s;
  out[oo + 1] = a[ao + 1]! - bx * s + bz * c;
  out[oo + 2] = a[ao + 2]! + b[bo + 2]!;
  return out;
}

/**
 * Writes the move at a real index of packed moves (count x 3): straight between neighbours, at the ends as they are.
 */
export function moveAt(moves: Float64Array, index: number, out: Float64Array): Float64Array {
  const last = moves.length / 3 - 1;
  const f = Math.min(Math.max(index, 0), last);
  const a = Math.floor(f) * 3;
  const b = Math.min(Math.floor(f) + 1, last) * 3;
  const t = f - Math.floor(f);
  for (let k = 0; k < 3; k++) out[k] = moves[a + k]! + t * (moves[b + k]! - moves[a + k]!);
  return out;
}

/** The angle that differs from `radians` by whole turns and lies within half a turn of zero. */
export function shortestTurn(radians: number): number {
  return radians - 2 * Math.PI * Math.round(radians / (2 * Math.PI));
}

/** The move of a packed one (x, z, turn). */
export const unpackMove = (packed: Float64Array, at = 0): FloorMove => ({
  x: packed[at]!,
  z: packed[at + 1]!,
  turn: packed[at + 2]!,
});
