import { quatConjugate, quatCopy, quatFromAxis, quatMultiply, quatSlerp } from '../math/quaternion';
import type { PoseKey } from '../scene/lane';

/** A joint's key poses, packed for evaluation. */
export interface KeyTrack {
  readonly joint: number;
  readonly frames: Float64Array;
  /** keys x 4, xyzw. */
  readonly rotations: Float64Array;
  /** One for each key: 0 hold, 1 linear, 2 smooth. */
  readonly curves: Uint8Array;
  /** keys x 3: rotation vectors a frame, in the key's own axes. */
  readonly tangents: Float64Array;
}

const CURVES = { hold: 0, linear: 1, smooth: 2 } as const;

/**
 * Packs the keys of a joint. A key without a tangent of its own gets the mean turn a frame between its neighbours, the
 * first and the last none.
 */
export function keyTrack(joint: number, keys: readonly PoseKey[]): KeyTrack {
  const frames = Float64Array.from(keys, (k) => k.frame);
  const rotations = Float64Array.from(keys.flatMap((k) => k.rotation));
  const tangents = new Float64Array(keys.length * 3);
  keys.forEach((key, i) => {
    if (key.tangent) tangents.set(key.tangent, i * 3);
    else if (i > 0 && i + 1 < keys.length) {
      const before = turnBetween(rotations, i * 4, rotations, (i - 1) * 4);
      const after = turnBetween(rotations, i * 4, rotations, (i + 1) * 4);
      const span = frames[i + 1]! - frames[i - 1]!;
      for (let k = 0; k < 3; k++) tangents[i * 3 + k] = (after[k]! - before[k]!) / span;
    }
  });
  return { joint, frames, rotations, tangents, curves: Uint8Array.from(keys, (k) => CURVES[k.curve]) };
}

const _difference = new Float64Array(4);
const _vector = new Float64Array(3);

/** The rotation vector, in a's own axes, of what takes a to b the shorter way: log(a^-1 b). */
function turnBetween(a: Float64Array, ao: number, b: Float64Array, bo: number): Float64Array {
  return Float64Array.from(writeTurn(a, ao, b, bo));
}

function writeTurn(a: Float64Array, ao: number, b: Float64Array, bo: number): Float64Array {
  quatConjugate(a, ao, _difference, 0);
  quatMultiply(_difference, 0, b, bo, _difference, 0);
  const sign = _difference[3]! < 0 ? -1 : 1;
  const sine = Math.hypot(_difference[0]!, _difference[1]!, _difference[2]!);
  const scale = sine < 1e-12 ? 2 * sign : (sign * 2 * Math.atan2(sine, sign * _difference[3]!)) / sine;
  for (let k = 0; k < 3; k++) _vector[k] = _difference[k]! * scale;
  return _vector;
}

/**
 * Writes a joint's keyed rotation at a frame. *hold* keeps a key until the next, *linear* is slerp, *smooth* a cubic
 * Hermite curve of the rotation vector from the key on, whose slopes are the tangents at both ends. Before the first and
 * after the last key these are held.
 *
 * @param out 4 numbers from `oo`, xyzw
 */
export function keyedRotation(track: KeyTrack, frame: number, out: Float64Array, oo: number): Float64Array {
  const { frames, rotations, curves, tangents } = track;
  let i = 0;
  while (i + 1 < frames.length && frames[i + 1]! <= frame) i++;
  const last = i + 1 >= frames.length;
  if (last || frame <= frames[0]! || curves[i] === CURVES.hold) {
    return quatCopy(rotations, i * 4, out, oo) as Float64Array;
  }
  const span = frames[i + 1]! - frames[i]!;
  const t = (frame - frames[i]!) / span;
  if (curves[i] === CURVES.linear) {
    return quatSlerp(rotations, i * 4, rotations, (i + 1) * 4, t, out, oo) as Float64Array;
  }
  const turn = writeTurn(rotations, i * 4, rotations, (i + 1) * 4);
  const s = 1 - t;
  // Hermite from 0 to the whole turn; the end's slope is close to its tangent for turns below a right angle.
  for (let k = 0; k < 3; k++)
    turn[k] =
      turn[k]! * t * t * (3 - 2 * t) +
      span * s * t * (tangents[i * 3 + k]! * s - tangents[(i + 1) * 3 + k]! * t);
  const angle = Math.hypot(turn[0]!, turn[1]!, turn[2]!);
  if (angle < 1e-12) return quatCopy(rotations, i * 4, out, oo) as Float64Array;
  quatFromAxis(turn[0]! / angle, turn[1]! / angle, turn[2]! / angle, angle, _difference, 0);
  return quatMultiply(rotations, i * 4, _difference, 0, out, oo) as Float64Array;
}
