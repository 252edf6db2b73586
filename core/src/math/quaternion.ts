/**
 * Unit quaternions on packed arrays, stored x y z w. Every kernel takes arrays with offsets and writes into
 * its last argument. `q` and `-q` are one rotation; blends take the shorter way.
 */

/** A packed array of numbers that kernels read. */
export type Floats = Float32Array | Float64Array;

/** Below this cosine distance two rotations are closer than float noise, and a linear blend is exact enough. */
const NEARLY_EQUAL = 1e-10;

/** Copies the quaternion at `a[ao..]` to `out[oo..]`. */
export function quatCopy(a: Floats, ao: number, out: Floats, oo: number): Floats {
  out[oo] = a[ao]!;
  out[oo + 1] = a[ao + 1]!;
  out[oo + 2] = a[ao + 2]!;
  out[oo + 3] = a[ao + 3]!;
  return out;
}

/** Writes a * b (first b, then a). `out` may be either argument. */
export function quatMultiply(a: Floats, ao: number, b: Floats, bo: number, out: Floats, oo: number): Floats {
  const ax = a[ao]!;
  const ay = a[ao + 1]!;
  const az = a[ao + 2]!;
  const aw = a[ao + 3]!;
  const bx = b[bo]!;
  const by = b[bo + 1]!;
  const bz = b[bo + 2]!;
  const bw = b[bo + 3]!;
  out[oo] = aw * bx + ax * bw + ay * bz - az * by;
  out[oo + 1] = aw * by - ax * bz + ay * bw + az * bx;
  out[oo + 2] = aw * bz + ax * by - ay * bx + az * bw;
  out[oo + 3] = aw * bw - ax * bx - ay * by - az * bz;
  return out;
}

/** Writes the inverse of a unit quaternion. */
export function quatConjugate(a: Floats, ao: number, out: Floats, oo: number): Floats {
  out[oo] = -a[ao]!;
  out[oo + 1] = -a[ao + 1]!;
  out[oo + 2] = -a[ao + 2]!;
  out[oo + 3] = a[ao + 3]!;
  return out;
}

/** Below this length a quaternion is all rounding and has no direction. */
const NO_LENGTH = 1e-20;

/** Normalises in place; a zero or non-finite quaternion becomes the identity. */
export function quatNormalize(q: Floats, o: number): Floats {
  const x = q[o]!;
  const y = q[o + 1]!;
  const z = q[o + 2]!;
  const w = q[o + 3]!;
  const square = x * x + y * y + z * z + w * w;
  // The root of squares is several times as quick as hypot, which is for lengths whose squares are no numbers any more.
  const n = square > 1e-100 && square < 1e100 ? Math.sqrt(square) : Math.hypot(x, y, z, w);
  if (!(n > NO_LENGTH) || !Number.isFinite(n)) {
    q[o] = q[o + 1] = q[o + 2] = 0;
    q[o + 3] = 1;
    return q;
  }
  q[o]! /= n;
  q[o + 1]! /= n;
  q[o + 2]! /= n;
  q[o + 3]! /= n;
  return q;
}

/**
 * Spherical linear interpolation the shorter way round (Shoemake, "Animating rotation with quaternion
 * curves", SIGGRAPH 1985; glTF 2.0.1, Appendix C.3). `out` may be either argument.
 */
export function quatSlerp(
  a: Floats,
  ao: number,
  b: Floats,
  bo: number,
  t: number,
  out: Floats,
  oo: number,
): Floats {
  const ax = a[ao]!;
  const ay = a[ao + 1]!;
  const az = a[ao + 2]!;
  const aw = a[ao + 3]!;
  const bx = b[bo]!;
  const by = b[bo + 1]!;
  const bz = b[bo + 2]!;
  const bw = b[bo + 3]!;
  let dot = ax * bx + ay * by + az * bz + aw * bw;
  let sign = 1;
  if (dot < 0) {
    dot = -dot;
    sign = -1;
  }
  let wa = 1 - t;
  let wb = t;
  if (1 - dot > NEARLY_EQUAL) {
    const angle = Math.acos(dot);
    const inverse = 1 / Math.sin(angle);
    wa = Math.sin(wa * angle) * inverse;
    wb = Math.sin(wb * angle) * inverse;
  }
  wb *= sign;
  out[oo] = wa * ax + wb * bx;
  out[oo + 1] = wa * ay + wb * by;
  out[oo + 2] = wa * az + wb * bz;
  out[oo + 3] = wa * aw + wb * bw;
  return out;
}

/**
 * Cosine of half the angle up to which a normalised linear blend stays within 0.01 degree of slerp: the error
 * peaks at about angle^3 / 62 radians, so the angle may reach 12.6 degrees; 12 are taken.
 */
export const LINEAR_COSINE = Math.cos((6 * Math.PI) / 180);

/**
 * Interpolates neighbouring samples: normalised linear where that stays within 0.01 degree of slerp, slerp
 * elsewhere.
 */
export function quatBetween(
  a: Floats,
  ao: number,
  b: Floats,
  bo: number,
  t: number,
  out: Floats,
  oo: number,
): Floats {
  const ax = a[ao]!;
  const ay = a[ao + 1]!;
  const az = a[ao + 2]!;
  const aw = a[ao + 3]!;
  const bx = b[bo]!;
  const by = b[bo + 1]!;
  const bz = b[bo + 2]!;
  const bw = b[bo + 3]!;
  const dot = ax * bx + ay * by + az * bz + aw * bw;
  if (dot > -LINEAR_COSINE && dot < LINEAR_COSINE) return quatSlerp(a, ao, b, bo, t, out, oo);
  const wa = 1 - t;
  const wb = dot < 0 ? -t : t;
  const x = wa * ax + wb * bx;
  const y = wa * ay + wb * by;
  const z = wa * az + wb * bz;
  const w = wa * aw + wb * bw;
  const n = 1 / Math.sqrt(x * x + y * y + z * z + w * w);
  out[oo] = x * n;
  out[oo + 1] = y * n;
  out[oo + 2] = z * n;
  out[oo + 3] = w * n;
  return out;
}

/** Angle in radians between two rotations, in [0, pi]; exact for small angles too. */
export function quatAngle(a: Floats, ao: number, b: Floats, bo: number): number {
  const sign =
    a[ao]! * b[bo]! + a[ao + 1]! * b[bo + 1]! + a[ao + 2]! * b[bo + 2]! + a[ao + 3]! * b[bo + 3]! < 0
      ? -1
      : 1;
  let difference = 0;
  let sum = 0;
  for (let i = 0; i < 4; i++) {
    const d = a[ao + i]! - sign * b[bo + i]!;
    const s = a[ao + i]! + sign * b[bo + i]!;
    difference += d * d;
    sum += s * s;
  }
  return 4 * Math.atan2(Math.sqrt(difference), Math.sqrt(sum));
}

/** Rotates the vector at `v[vo..]`. `out` may be `v`. */
export function quatRotate(q: Floats, qo: number, v: Floats, vo: number, out: Floats, oo: number): Floats {
  const x = q[qo]!;
  const y = q[qo + 1]!;
  const z = q[qo + 2]!;
  const w = q[qo + 3]!;
  const vx = v[vo]!;
  const vy = v[vo + 1]!;
  const vz = v[vo + 2]!;
  const tx = 2 * (y * vz - z * vy);
  const ty = 2 * (z * vx - x * vz);
  const tz = 2 * (x * vy - y * vx);
  out[oo] = vx + w * tx + y * tz - z * ty;
  out[oo + 1] = vy + w * ty + z * tx - x * tz;
  out[oo + 2] = vz + w * tz + x * ty - y * tx;
  return out;
}

/** Turns the rotation at `q[o..]` about the vertical by `turnRadians`, in place: Ry * q. */
export function quatTurn(q: Floats, o: number, turnRadians: number): Floats {
  const s = Math.sin(turnRadians / 2);
  const c = Math.cos(turnRadians / 2);
  const x = q[o]!;
  const y = q[o + 1]!;
  const z = q[o + 2]!;
  const w = q[o + 3]!;
  q[o] = c * x + s * z;
  q[o + 1] = c * y + s * w;
  q[o + 2] = c * z - s * x;
  q[o + 3] = c * w - s * y;
  return q;
}

/** Writes the rotation by `radians` about the unit axis (x, y, z). */
export function quatFromAxis(
  x: number,
  y: number,
  z: number,
  radians: number,
  out: Floats,
  oo: number,
): Floats {
  const s = Math.sin(radians / 2);
  out[oo] = x * s;
  out[oo + 1] = y * s;
  out[oo + 2] = z * s;
  out[oo + 3] = Math.cos(radians / 2);
  return out;
}

/** Writes the rotation whose columns are the given orthonormal axes (Shepperd, 1978: the largest term first). */
export function quatFromBasis(
  x: ArrayLike<number>,
  y: ArrayLike<number>,
  z: ArrayLike<number>,
  out: Floats,
  oo: number,
): Floats {
  const m00 = x[0]!;
  const m10 = x[1]!;
  const m20 = x[2]!;
  const m01 = y[0]!;
  const m11 = y[1]!;
  const m21 = y[2]!;
  const m02 = z[0]!;
  const m12 = z[1]!;
  const m22 = z[2]!;
  const trace = m00 + m11 + m22;
  if (trace > 0) {
    const s = 2 * Math.sqrt(trace + 1);
    out[oo] = (m21 - m12) / s;
    out[oo + 1] = (m02 - m20) / s;
    out[oo + 2] = (m10 - m01) / s;
    out[oo + 3] = s / 4;
  } else if (m00 > m11 && m00 > m22) {
    const s = 2 * Math.sqrt(1 + m00 - m11 - m22);
    out[oo] = s / 4;
    out[oo + 1] = (m01 + m10) / s;
    out[oo + 2] = (m02 + m20) / s;
    out[oo + 3] = (m21 - m12) / s;
  } else if (m11 > m22) {
    const s = 2 * Math.sqrt(1 + m11 - m00 - m22);
    out[oo] = (m01 + m10) / s;
    out[oo + 1] = s / 4;
    out[oo + 2] = (m12 + m21) / s;
    out[oo + 3] = (m02 - m20) / s;
  } else {
    const s = 2 * Math.sqrt(1 + m22 - m00 - m11);
    out[oo] = (m02 + m20) / s;
    out[oo + 1] = (m12 + m21) / s;
    out[oo + 2] = s / 4;
    out[oo + 3] = (m10 - m01) / s;
  }
  return quatNormalize(out, oo);
}

/** Turn about the vertical, in radians, that a rotation contains (its swing-twist part about Y). */
export function quatTwistY(q: Floats, o: number): number {
  return 2 * Math.atan2(q[o + 1]!, q[o + 3]!);
}

/** The rotation about the axis across both that takes one direction to another; vectors of any length but zero. */
export function quatFromArc(a: ArrayLike<number>, b: ArrayLike<number>): Float64Array {
  const length = Math.hypot(a[0]!, a[1]!, a[2]!) * Math.hypot(b[0]!, b[1]!, b[2]!);
  const dot = (a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!) / length;
  if (dot < -0.999999) return Float64Array.of(0, 0, 1, 0);
  const q = Float64Array.of(
    (a[1]! * b[2]! - a[2]! * b[1]!) / length,
    (a[2]! * b[0]! - a[0]! * b[2]!) / length,
    (a[0]! * b[1]! - a[1]! * b[0]!) / length,
    1 + dot,
  );
  return quatNormalize(q, 0) as Float64Array;
}
