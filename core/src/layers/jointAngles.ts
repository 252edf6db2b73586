import type { EulerOrder } from '../math/euler';
import { eulerFromQuat, eulerNearest } from '../math/euler';
import type { KeyTrack } from './keys';
import { keyedRotation } from './keys';

/** Angles x, y, z are those with R = Rx(x) Ry(y) Rz(z). */
export const ANGLE_ORDER: EulerOrder = [0, 1, 2];

/** Angles of every key, keys x 3, radians, each next to those of the key before. */
export function anglesOfTrack({ frames, rotations }: KeyTrack): Float64Array {
  const out = new Float64Array(frames.length * 3);
  for (let i = 0; i < frames.length; i++) {
    eulerFromQuat(rotations, i * 4, ANGLE_ORDER, out, i * 3);
    if (i > 0) eulerNearest(out, i * 3, out, i * 3 - 3);
  }
  return out;
}

const _rotation = new Float64Array(4);
const _angles = new Float64Array(3);
const _near = new Float64Array(3);

/** The angles at a frame, next to those on the straight way between the keys around. */
export function angleAt(track: KeyTrack, angles: Float64Array, frame: number): Float64Array {
  const { frames } = track;
  keyedRotation(track, frame, _rotation, 0);
  eulerFromQuat(_rotation, 0, ANGLE_ORDER, _angles, 0);
  let i = 0;
  let high = frames.length - 1;
  while (i < high) {
    const middle = (i + high + 1) >> 1;
    if (frames[middle]! <= frame) i = middle;
    else high = middle - 1;
  }
  const next = Math.min(i + 1, frames.length - 1);
  const span = frames[next]! - frames[i]!;
  const t = span > 0 ? Math.min(1, Math.max(0, (frame - frames[i]!) / span)) : 0;
  for (let k = 0; k < 3; k++)
    _near[k] = angles[i * 3 + k]! + t * (angles[next * 3 + k]! - angles[i * 3 + k]!);
  return eulerNearest(_angles, 0, _near, 0) as Float64Array;
}

/** Three numbers, one an axis. */
export type Triple = [number, number, number];

/** Cosine of the middle angle below which the rates of the others are not to be told apart. */
const GIMBAL = 1e-3;

/**
 * Rates of the angles of R = Rx(a) Ry(b) Rz(c) from a rotation vector a frame in the body's axes:
 * w = (cos b cos c a' + sin c b', -cos b sin c a' + cos c b', sin b a' + c') solved for a', b', c'
 * (Diebel, "Representing Attitude", 2006, section 5.6, for this order).
 */
export function angleRates(angles: Float64Array, i: number, vectors: Float64Array): Triple {
  const [b, c] = [angles[i * 3 + 1]!, angles[i * 3 + 2]!];
  const [x, y, z] = [vectors[i * 3]!, vectors[i * 3 + 1]!, vectors[i * 3 + 2]!];
  const cosine = Math.cos(b);
  const safe = Math.abs(cosine) < GIMBAL ? GIMBAL * (cosine < 0 ? -1 : 1) : cosine;
  const a = (Math.cos(c) * x - Math.sin(c) * y) / safe;
  return [a, Math.sin(c) * x + Math.cos(c) * y, z - Math.sin(b) * a];
}

/** The rotation vector a frame in the body's axes from rates of the angles. */
export function vectorOfRates(angles: ArrayLike<number>, [a, b, c]: Triple): Triple {
  const [y, z] = [angles[1]!, angles[2]!];
  const across = Math.cos(y) * a;
  return [
    across * Math.cos(z) + b * Math.sin(z),
    -across * Math.sin(z) + b * Math.cos(z),
    Math.sin(y) * a + c,
  ];
}
