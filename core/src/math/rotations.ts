/**
 * The blends of quaternion.ts over whole poses, written out in one loop each: evaluation spends its time here, and calls
 * for single quaternions made it twice as slow.
 */
import type { Floats } from './quaternion';
import { LINEAR_COSINE, quatSlerp } from './quaternion';

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
    const n = 1 / Math.sqrt(x * x + y * y + z * z + w * w);
    out[o] = x * n;
    out[o + 1] = y * n;
    out[o + 2] = z * n;
    out[o + 3] = w * n;
  }
  return out;
}

/** Cosine down to which the series below is used: 51 degrees between two rotations, where it errs by under 1e-11. */
const SERIES_COSINE = 0.9;
const SERIES_TERMS = 8;
const _forA = new Float64Array(SERIES_TERMS);
const _forB = new Float64Array(SERIES_TERMS);

/** Terms i = 1..8 of sin(t angle) / sin(angle) = t (1 + b1 (1 + b2 (1 + ...))), b_i = (t^2 - i^2) / (i (2i + 1)) (cos angle - 1). */
function seriesTerms(t: number, out: Float64Array): void {
  for (let i = 1; i <= SERIES_TERMS; i++) out[i - 1] = (t * t - i * i) / (i * (2 * i + 1));
}

/**
 * Blends `count` rotations of two poses by slerp, the shorter way round, into the first, as `quatSlerp` does.
 *
 * Rotations less than 51 degrees apart take a series whose terms depend on t alone (Eberly, "A Fast and Accurate
 * Algorithm for Computing SLERP", Journal of Graphics, GPU, and Game Tools 15, 2011; from memory, checked against the
 * sines in the tests): sines for every joint took half the time of a pose.
 */
export function slerpRotations(a: Float64Array, b: Float64Array, count: number, t: number): Float64Array {
  seriesTerms(1 - t, _forA);
  seriesTerms(t, _forB);
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
    if (dot > SERIES_COSINE) {
      const x = dot - 1;
      for (let i = SERIES_TERMS - 1; i >= 0; i--) {
        wa = 1 + _forA[i]! * x * wa;
        wb = 1 + _forB[i]! * x * wb;
      }
      wa *= 1 - t;
      wb *= t;
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
