import { quatConjugate, quatCopy, quatFromAxis, quatMultiply, quatSlerp } from '../math/quaternion';
import type { PoseKey } from '../scene/keys';
import { KEY_KINDS, keyBefore } from './valueCurve';

/** A joint's key poses, packed for evaluation. */
export interface KeyTrack {
  readonly joint: number;
  readonly frames: Float64Array;
  /** keys x 4, xyzw. */
  readonly rotations: Float64Array;
  /** How each key goes on to the next, as of `KEY_KINDS`. */
  readonly kinds: Uint8Array;
  /** keys x 3: rotation vectors a frame, in the key's own axes, with which it is arrived at and left. */
  readonly into: Float64Array;
  readonly out: Float64Array;
}

/** Packs the keys of a joint, which are in order of frames; slopes as of `valueCurve`. */
export function keyTrack(joint: number, keys: readonly PoseKey[]): KeyTrack {
  const count = keys.length;
  const frames = new Float64Array(count);
  const rotations = new Float64Array(count * 4);
  const kinds = new Uint8Array(count);
  const into = new Float64Array(count * 3);
  const out = new Float64Array(count * 3);
  for (let i = 0; i < count; i++) {
    const key = keys[i]!;
    frames[i] = key.frame;
    kinds[i] = KEY_KINDS[key.curve];
    for (let k = 0; k < 4; k++) rotations[i * 4 + k] = key.rotation[k]!;
  }
  for (let i = 0; i < count; i++) {
    const { curve, tangent, into: arriving } = keys[i]!;
    if (curve === 'free' && tangent !== null) {
      for (let k = 0; k < 3; k++) {
        out[i * 3 + k] = tangent[k]!;
        into[i * 3 + k] = (arriving ?? tangent)[k]!;
      }
    } else if (curve !== 'flat' && i > 0 && i < count - 1) {
      const span = frames[i + 1]! - frames[i - 1]!;
      writeTurn(rotations, i * 4, rotations, i * 4 + 4);
      for (let k = 0; k < 3; k++) out[i * 3 + k] = _vector[k]!;
      writeTurn(rotations, i * 4, rotations, i * 4 - 4);
      for (let k = 0; k < 3; k++) {
        out[i * 3 + k] = (out[i * 3 + k]! - _vector[k]!) / span;
        into[i * 3 + k] = out[i * 3 + k]!;
      }
    }
    if (curve === 'hold' && arriving !== null) for (let k = 0; k < 3; k++) into[i * 3 + k] = arriving[k]!;
  }
  return { joint, frames, rotations, kinds, into, out };
}

/** The rotation vector, in a's own axes, of what takes a to b the shorter way. */
export const turnBetween = (a: Float64Array, ao: number, b: Float64Array, bo: number): Float64Array =>
  Float64Array.from(writeTurn(a, ao, b, bo));

const _difference = new Float64Array(4);
const _vector = new Float64Array(3);

/** Writes the rotation vector, in a's own axes, of what takes a to b the shorter way: log(a^-1 b). */
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
 * Writes a joint's keyed rotation at a frame. *hold* keeps a key until the next, *linear* is slerp, the others a cubic Hermite
 * curve of the rotation vector from the key on, whose slopes are those of both keys. Before the first and after the last key
 * these are held.
 *
 * @param out 4 numbers from `oo`, xyzw
 */
export function keyedRotation(track: KeyTrack, frame: number, out: Float64Array, oo: number): Float64Array {
  const { frames, rotations, kinds, into, out: leaving } = track;
  const i = keyBefore(frames, frame);
  if (i + 1 >= frames.length || frame <= frames[0]! || kinds[i] === KEY_KINDS.hold)
    return quatCopy(rotations, i * 4, out, oo) as Float64Array;
  const span = frames[i + 1]! - frames[i]!;
  const t = (frame - frames[i]!) / span;
  if (kinds[i] === KEY_KINDS.linear)
    return quatSlerp(rotations, i * 4, rotations, (i + 1) * 4, t, out, oo) as Float64Array;
  const turn = writeTurn(rotations, i * 4, rotations, (i + 1) * 4);
  const s = 1 - t;
  // Hermite from 0 to the whole turn; the end's slope is close to its tangent for turns below a right angle.
  for (let k = 0; k < 3; k++)
    turn[k] =
      turn[k]! * t * t * (3 - 2 * t) + span * s * t * (leaving[i * 3 + k]! * s - into[(i + 1) * 3 + k]! * t);
  const angle = Math.hypot(turn[0]!, turn[1]!, turn[2]!);
  if (angle < 1e-12) return quatCopy(rotations, i * 4, out, oo) as Float64Array;
  quatFromAxis(turn[0]! / angle, turn[1]! / angle, turn[2]! / angle, angle, _difference, 0);
  return quatMultiply(rotations, i * 4, _difference, 0, out, oo) as Float64Array;
}
