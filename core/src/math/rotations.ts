/**
 * The blends of quaternion.ts over whole poses, written out in one loop each: evaluation spends its time here, and calls
 * for single quaternions made it twice as slow.
 */
import type { Floats } from './quaternion';
import { LINEAR_COSINE, quatSlerp } from './quaternion';

/** Squared lengths within this of one are set right by a series. */
const NEAR_UNIT = 0.004;

/**
 * Interpolates `count` rotations between neighbouring samples, as `quatBetween` does.
 *
 * @param a count x 4 from offset `ao`; `b` likewise
 * @param out count x 4 from 0
 */
export function betweenRotations(
  a: Floats,
  ao: number,
  b: Floats,
  bo: number,
  count: number,
  t: number,
  out: Float64Array,
): Float64Array {
  const wa = 1 - t;
  for (let o = 0; o < count * 4; o += 4) {
    const ax = a[ao + o]!;
    const ay = a[ao + o + 1]!;
    const az = a[ao + o + 2]!;
    const aw = a[ao + o + 3]!;
    const bx = b[bo + o]!;
    const by = b[bo + o + 1]!;
    const bz = b[bo + o + 2]!;
    const bw = b[bo + o + 3]!;
    const dot = ax * bx + ay * by + az * bz + aw * bw;
    if (dot > -LINEAR_COSINE && dot < LINEAR_COSINE) {
      quatSlerp(a, ao + o, b, bo + o, t, out, o);
      continue;
    }
    const wb = dot < 0 ? -t : t;
    const x = wa * ax + wb * bx;
    const y = wa * ay + wb * by;
    const z = wa * az + wb * bz;
    const w = wa * aw + wb * bw;
    // 1 / sqrt(1 - e) as a series: between samples 12 degrees apart e stays under 0.003, and the series errs by 1e-11.
    const e = 1 - (x * x + y * y + z * z + w * w);
    const n =
      e < NEAR_UNIT && e > -NEAR_UNIT ? 1 + e * (0.5 + e * (0.375 + e * 0.3125)) : 1 / Math.sqrt(1 - e);
    out[o] = x * n;
    out[o + 1] = y * n;
    out[o + 2] = z * n;
    out[o + 3] = w * n;
  }
  return out;
}

/** Cosine down to which the series below is used, 51 degrees between two rotations, and down to which half of it will do. */
const SERIES_COSINE = 0.9;
const SHORT_COSINE = 0.995;

/** Term i of sin(t angle) / sin(angle) = t (1 + b1 (1 + b2 (1 + ...))), b_i = (t^2 - i^2) / (i (2i + 1)) (cos angle - 1). */
const term = (t: number, i: number): number => (t * t - i * i) / (i * (2 * i + 1));

/**
 * Samples two motions, each between two of its neighbouring samples, and blends them by slerp, in one pass over `count`
 * rotations: nothing goes through memory in between, which is what costs most. Neighbours must be close and of one sign
 * (`areSmooth`); the result is that of `betweenRotations` and `slerpRotations`.
 *
 * @param a first motion's samples from offsets `a0` and `a1`, `ta` between them; `b` likewise
 * @param t share of the second motion
 */
export function blendSamples(
  a: Floats,
  a0: number,
  a1: number,
  ta: number,
  b: Floats,
  b0: number,
  b1: number,
  tb: number,
  count: number,
  t: number,
  out: Float64Array,
): Float64Array {
  const s = 1 - t;
  const p1 = term(s, 1);
  const p2 = term(s, 2);
  const p3 = term(s, 3);
  const p4 = term(s, 4);
  const p5 = term(s, 5);
  const p6 = term(s, 6);
  const p7 = term(s, 7);
  const p8 = term(s, 8);
  const q1 = term(t, 1);
  const q2 = term(t, 2);
  const q3 = term(t, 3);
  const q4 = term(t, 4);
  const q5 = term(t, 5);
  const q6 = term(t, 6);
  const q7 = term(t, 7);
  const q8 = term(t, 8);
  for (let o = 0; o < count * 4; o += 4) {
    let ax = a[a0 + o]!;
    let ay = a[a0 + o + 1]!;
    let az = a[a0 + o + 2]!;
    let aw = a[a0 + o + 3]!;
    ax += ta * (a[a1 + o]! - ax);
    ay += ta * (a[a1 + o + 1]! - ay);
    az += ta * (a[a1 + o + 2]! - az);
    aw += ta * (a[a1 + o + 3]! - aw);
    let bx = b[b0 + o]!;
    let by = b[b0 + o + 1]!;
    let bz = b[b0 + o + 2]!;
    let bw = b[b0 + o + 3]!;
    bx += tb * (b[b1 + o]! - bx);
    by += tb * (b[b1 + o + 1]! - by);
    bz += tb * (b[b1 + o + 2]! - bz);
    bw += tb * (b[b1 + o + 3]! - bw);
    const ea = 1 - (ax * ax + ay * ay + az * az + aw * aw);
    const eb = 1 - (bx * bx + by * by + bz * bz + bw * bw);
    const na = 1 + ea * (0.5 + ea * (0.375 + ea * 0.3125));
    const nb = 1 + eb * (0.5 + eb * (0.375 + eb * 0.3125));
    const signed = (ax * bx + ay * by + az * bz + aw * bw) * na * nb;
    const dot = signed < 0 ? -signed : signed;
    let wa = 1;
    let wb = 1;
    if (dot > SHORT_COSINE) {
      const x = dot - 1;
      wa = s * (1 + p1 * x * (1 + p2 * x * (1 + p3 * x * (1 + p4 * x))));
      wb = t * (1 + q1 * x * (1 + q2 * x * (1 + q3 * x * (1 + q4 * x))));
    } else if (dot > SERIES_COSINE) {
      const x = dot - 1;
      wa = 1 + p5 * x * (1 + p6 * x * (1 + p7 * x * (1 + p8 * x)));
      wb = 1 + q5 * x * (1 + q6 * x * (1 + q7 * x * (1 + q8 * x)));
      wa = s * (1 + p1 * x * (1 + p2 * x * (1 + p3 * x * (1 + p4 * x * wa))));
      wb = t * (1 + q1 * x * (1 + q2 * x * (1 + q3 * x * (1 + q4 * x * wb))));
    } else {
      const sine = Math.sqrt(1 - dot * dot);
      const part = t * Math.acos(dot);
      wb = Math.sin(part) / sine;
      wa = Math.cos(part) - dot * wb;
    }
    wa *= na;
    wb *= signed < 0 ? -nb : nb;
    out[o] = wa * ax + wb * bx;
    out[o + 1] = wa * ay + wb * by;
    out[o + 2] = wa * az + wb * bz;
    out[o + 3] = wa * aw + wb * bw;
  }
  return out;
}

/** Whether all neighbouring samples are of one sign and close enough to be blended linearly and set right by a series. */
export function areSmooth(rotations: Floats, frames: number, count: number): boolean {
  const width = count * 4;
  for (let o = 0; o + width < frames * width; o += 4) {
    let dot = 0;
    for (let k = 0; k < 4; k++) dot += rotations[o + k]! * rotations[o + width + k]!;
    if (!(dot >= LINEAR_COSINE)) return false;
  }
  return true;
}

/**
 * Blends `count` rotations of two poses by slerp, the shorter way round, into the first, as `quatSlerp` does.
 *
 * Rotations less than 51 degrees apart take a series whose terms depend on t alone (Eberly, "A Fast and Accurate
 * Algorithm for Computing SLERP", Journal of Graphics, GPU, and Game Tools 15, 2011; from memory, checked against the
 * sines in the tests): sines for every joint took half the time of a pose.
 */
export function slerpRotations(a: Float64Array, b: Float64Array, count: number, t: number): Float64Array {
  const s = 1 - t;
  // Written out: terms in local names, not in arrays, which would be read from memory for every joint.
  const p1 = term(s, 1);
  const p2 = term(s, 2);
  const p3 = term(s, 3);
  const p4 = term(s, 4);
  const p5 = term(s, 5);
  const p6 = term(s, 6);
  const p7 = term(s, 7);
  const p8 = term(s, 8);
  const q1 = term(t, 1);
  const q2 = term(t, 2);
  const q3 = term(t, 3);
  const q4 = term(t, 4);
  const q5 = term(t, 5);
  const q6 = term(t, 6);
  const q7 = term(t, 7);
  const q8 = term(t, 8);
  for (let o = 0; o < count * 4; o += 4) {
    const ax = a[o]!;
    const ay = a[o + 1]!;
    const az = a[o + 2]!;
    const aw = a[o + 3]!;
    const bx = b[o]!;
    const by = b[o + 1]!;
    const bz = b[o + 2]!;
    const bw = b[o + 3]!;
    const signed = ax * bx + ay * by + az * bz + aw * bw;
    const dot = signed < 0 ? -signed : signed;
    let wa = 1;
    let wb = 1;
    if (dot > SHORT_COSINE) {
      const x = dot - 1;
      wa = s * (1 + p1 * x * (1 + p2 * x * (1 + p3 * x * (1 + p4 * x))));
      wb = t * (1 + q1 * x * (1 + q2 * x * (1 + q3 * x * (1 + q4 * x))));
    } else if (dot > SERIES_COSINE) {
      const x = dot - 1;
      wa = 1 + p5 * x * (1 + p6 * x * (1 + p7 * x * (1 + p8 * x)));
      wb = 1 + q5 * x * (1 + q6 * x * (1 + q7 * x * (1 + q8 * x)));
      wa = s * (1 + p1 * x * (1 + p2 * x * (1 + p3 * x * (1 + p4 * x * wa))));
      wb = t * (1 + q1 * x * (1 + q2 * x * (1 + q3 * x * (1 + q4 * x * wb))));
    } else {
      // sin((1 - t) angle) / sin(angle) = cos(t angle) - cos(angle) sin(t angle) / sin(angle): one sine less.
      const sine = Math.sqrt(1 - dot * dot);
      const part = t * Math.acos(dot);
      wb = Math.sin(part) / sine;
      wa = Math.cos(part) - dot * wb;
    }
    if (signed < 0) wb = -wb;
    a[o] = wa * ax + wb * bx;
    a[o + 1] = wa * ay + wb * by;
    a[o + 2] = wa * az + wb * bz;
    a[o + 3] = wa * aw + wb * bw;
  }
  return a;
}
