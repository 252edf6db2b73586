import { quatConjugate, quatFromAxis, quatMultiply } from '../math/quaternion';

/**
 * Settling: after a cut the difference to the outgoing motion, in place and speed, decays along a quintic (Bollo,
 * "Inertialization: High-Performance Animation Transitions in Gears of War", GDC 2018; the coefficients from memory,
 * checked in the tests against the conditions that they must meet).
 */

/** Numbers of one packed decay: the six coefficients of t^5 .. 1 and its length in seconds. */
export const DECAY_SIZE = 7;

/** Seconds below which nothing is left to decay. */
const NO_TIME = 1e-9;

/**
 * Writes the quintic that starts with value x0 >= 0 and slope v0 and ends after t1 seconds with value, slope and
 * acceleration zero, to `out[o..o + 6]`. A slope towards zero shortens it so that it does not overshoot.
 *
 * @param x0 metres or radians, not negative
 * @param v0 per second
 * @param t1 seconds
 */
export function writeDecay(x0: number, v0: number, t1: number, out: Float64Array, o: number): Float64Array {
  let time = t1;
  if (v0 < 0) time = Math.min(time, (-5 * x0) / v0);
  if (!(time > NO_TIME)) {
    out.fill(0, o, o + DECAY_SIZE);
    return out;
  }
  const t2 = time * time;
  const a0 = Math.max(0, (-8 * v0 * time - 20 * x0) / t2);
  out[o] = -(a0 * t2 + 6 * v0 * time + 12 * x0) / (2 * t2 * t2 * time);
  out[o + 1] = (3 * a0 * t2 + 16 * v0 * time + 30 * x0) / (2 * t2 * t2);
  out[o + 2] = -(3 * a0 * t2 + 12 * v0 * time + 20 * x0) / (2 * t2 * time);
  out[o + 3] = a0 / 2;
  out[o + 4] = v0;
  out[o + 5] = x0;
  out[o + 6] = time;
  return out;
}

/** Value of a packed decay t seconds after the cut; zero once it is over. */
export function decayAt(decay: Float64Array, o: number, t: number): number {
  if (t >= decay[o + 6]!) return 0;
  return (
    ((((decay[o]! * t + decay[o + 1]!) * t + decay[o + 2]!) * t + decay[o + 3]!) * t + decay[o + 4]!) * t +
    decay[o + 5]!
  );
}

const _inverse = new Float64Array(4);
const _turn = new Float64Array(4);

/**
 * Writes the rotation vector (axis times angle, radians, at most half a turn) of the rotation that takes b to a:
 * log(a b^-1).
 */
export function rotationBetween(
  a: Float64Array,
  ao: number,
  b: Float64Array,
  bo: number,
  out: Float64Array,
  oo: number,
): Float64Array {
  quatConjugate(b, bo, _inverse, 0);
  quatMultiply(a, ao, _inverse, 0, _turn, 0);
  const sign = _turn[3]! < 0 ? -1 : 1;
  const sine = Math.hypot(_turn[0]!, _turn[1]!, _turn[2]!);
  const scale = sine < 1e-12 ? 2 * sign : (sign * 2 * Math.atan2(sine, sign * _turn[3]!)) / sine;
  for (let k = 0; k < 3; k++) out[oo + k] = _turn[k]! * scale;
  return out;
}

/** Turns the rotation at `q[o..]` by `radians` about the unit axis at `axis[ao..]`, in place: R q. */
export function turnAbout(axis: Float64Array, ao: number, radians: number, q: Float64Array, o: number): void {
  quatFromAxis(axis[ao]!, axis[ao + 1]!, axis[ao + 2]!, radians, _turn, 0);
  quatMultiply(_turn, 0, q, o, q, o);
}

/**
 * Writes one decay of a vector difference: its axis (unit) to `axis[ao..]` and the decay of its length to `decay[o..]`.
 *
 * @param difference outgoing less incoming at the cut, 3 numbers
 * @param speed its change a second, 3 numbers
 */
export function writeVectorDecay(
  difference: ArrayLike<number>,
  speed: ArrayLike<number>,
  seconds: number,
  axis: Float64Array,
  ao: number,
  decay: Float64Array,
  o: number,
): void {
  const length = Math.hypot(difference[0]!, difference[1]!, difference[2]!);
  const rate = Math.hypot(speed[0]!, speed[1]!, speed[2]!);
  // A difference in speed alone has the direction of the speed.
  const along = length > 1e-7 ? difference : speed;
  const norm = length > 1e-7 ? length : rate;
  for (let k = 0; k < 3; k++) axis[ao + k] = norm > 0 ? along[k]! / norm : 0;
  let v0 = 0;
  for (let k = 0; k < 3; k++) v0 += speed[k]! * axis[ao + k]!;
  writeDecay(length > 1e-7 ? length : 0, v0, seconds, decay, o);
}
