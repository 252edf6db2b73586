import type { ValueKey } from '../scene/keys';

/** A number over time, packed for evaluation. */
export interface ValueCurve {
  readonly frames: Float64Array;
  readonly values: Float64Array;
  /** How each key goes on to the next, as of `KEY_KINDS`. */
  readonly kinds: Uint8Array;
  /** Slopes a frame. */
  readonly into: Float64Array;
  readonly out: Float64Array;
}

/** What a key's curve comes to in evaluation: it holds, goes straight, or by its slopes. */
export const KEY_KINDS = { hold: 0, linear: 1, smooth: 2, flat: 2, free: 2 } as const;

/**
 * Packs keys, which are in order of frames. The slopes at keys: none at a flat one, its own at a free one and where one that holds has one
 * to be arrived at, else the mean between its neighbours, which is none at either end (Catmull and Rom 1974, for keys that are not evenly
 * apart).
 */
export function valueCurve(keys: readonly ValueKey[]): ValueCurve {
  const count = keys.length;
  const frames = new Float64Array(count);
  const values = new Float64Array(count);
  const kinds = new Uint8Array(count);
  const into = new Float64Array(count);
  const out = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const { frame, value, curve, tangent, into: arriving } = keys[i]!;
    frames[i] = frame;
    values[i] = value;
    kinds[i] = KEY_KINDS[curve];
    const [before, after] = [keys[i - 1], keys[i + 1]];
    if (curve === 'free' && tangent !== null) {
      out[i] = tangent;
      into[i] = arriving ?? tangent;
    } else if (curve !== 'flat' && before && after) {
      out[i] = (after.value - before.value) / (after.frame - before.frame);
      into[i] = out[i]!;
    }
    if (curve === 'hold' && arriving !== null) into[i] = arriving;
  }
  return { frames, values, kinds, into, out };
}

/** Index of the last key at or before a frame; 0 before the first. */
export function keyBefore(frames: Float64Array, frame: number): number {
  let low = 0;
  let high = frames.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (frames[middle]! <= frame) low = middle;
    else high = middle - 1;
  }
  return low;
}

/**
 * The value of a curve at a frame, `none` without keys. Between keys with slopes it is the cubic Hermite curve
 * (2t^3 - 3t^2 + 1) v0 + d (t^3 - 2t^2 + t) m0 + (3t^2 - 2t^3) v1 + d (t^3 - t^2) m1, t the share of their distance d
 * (as in the glTF 2.0 specification, appendix C, cubic spline interpolation); outside its keys it is held.
 */
export function valueOn(curve: ValueCurve, frame: number, none: number): number {
  const { frames, values, kinds, into, out } = curve;
  const last = frames.length - 1;
  if (last < 0) return none;
  const i = keyBefore(frames, frame);
  const from = values[i]!;
  if (i === last || frame <= frames[i]! || kinds[i] === KEY_KINDS.hold) return from;
  const span = frames[i + 1]! - frames[i]!;
  const t = (frame - frames[i]!) / span;
  const rise = values[i + 1]! - from;
  if (kinds[i] === KEY_KINDS.linear) return from + t * rise;
  const s = 1 - t;
  return from + t * t * (3 - 2 * t) * rise + span * s * t * (s * out[i]! - t * into[i + 1]!);
}
