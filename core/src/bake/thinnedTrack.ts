import { quatSlerp } from '../math/quaternion';
import type { KeyInterpolation } from './reduceKeys';

/** A value of a track, for looking at it. */
const _value = new Float64Array(4);

/** One track of a joint over a block of samples, turns (xyzw) or places, of which some samples are kept as keys. */
export class ThinnedTrack {
  /** samples of the block: 1 where a key is. */
  readonly isKey: Uint8Array;

  /**
   * @param values of the whole motion: frames x width
   * @param start sample of the motion with which the block begins, and how many it has
   */
  constructor(
    readonly joint: number,
    readonly width: 3 | 4,
    private readonly values: Float32Array,
    private readonly start: number,
    samples: number,
    private readonly interpolation: KeyInterpolation,
  ) {
    this.isKey = new Uint8Array(samples).fill(1);
  }

  private get frames(): number {
    return this.values.length / this.width;
  }

  /** The samples of the whole motion that are keys. */
  keys(): number[] {
    const keys: number[] = [];
    this.isKey.forEach((key, s) => key && keys.push(this.start + s));
    return keys;
  }

  /** The last key at or before a sample of the block. */
  keyBefore(sample: number): number {
    let s = sample;
    while (!this.isKey[s]) s--;
    return s;
  }

  /** The first key at or after a sample of the block. */
  keyAfter(sample: number): number {
    let s = sample;
    while (!this.isKey[s]) s++;
    return s;
  }

  /** How far a value is from the track's own sample: radians, or metres. */
  distance(sample: number, value: Float64Array): number {
    const { values, width } = this;
    const at = (this.start + sample) * width;
    if (width === 4) return angleBetween(value, 0, values, at);
    return Math.hypot(value[0]! - values[at]!, value[1]! - values[at + 1]!, value[2]! - values[at + 2]!);
  }

  /** Keeps a key as far from the one before as all samples between allow. */
  thin(tolerance: Float64Array): void {
    const { isKey } = this;
    const last = this.isKey.length - 1;
    isKey.fill(0);
    isKey[0] = 1;
    isKey[last] = 1;
    for (let from = 0; from < last;) {
      let fits = from + 1;
      let step = 1;
      while (fits < last && this.holds(from, Math.min(fits + step, last), tolerance)) {
        fits = Math.min(fits + step, last);
        step *= 2;
      }
      // The last doubling went too far: what still holds lies within it.
      for (step >>= 1; step >= 1; step >>= 1) {
        const to = fits + step;
        if (to <= last && this.holds(from, to, tolerance)) fits = to;
      }
      isKey[fits] = 1;
      from = fits;
    }
  }

  private holds(from: number, to: number, tolerance: Float64Array): boolean {
    for (let s = from + 1; s < to; s++) {
      this.between(from, to, s, _value);
      if (this.distance(s, _value) > tolerance[s]!) return false;
    }
    return true;
  }

  /** Writes what a reader makes of a track at a real sample between two of its keys. */
  between(from: number, to: number, s: number, out: Float64Array): void {
    const { values, width } = this;
    const [a, b] = [(this.start + from) * width, (this.start + to) * width];
    const t = to > from ? (s - from) / (to - from) : 0;
    if (t === 0) for (let k = 0; k < width; k++) out[k] = values[a + k]!;
    else if (this.interpolation === 'cubic') this.hermite(from, to, t, out);
    else if (width === 4) quatSlerp(values, a, values, b, t, out, 0);
    else for (let k = 0; k < 3; k++) out[k] = values[a + k]! + t * (values[b + k]! - values[a + k]!);
  }

  /** As glTF 2.0.1, appendix C.5, with slopes of the motion itself; quaternions are made unit afterwards. */
  private hermite(from: number, to: number, t: number, out: Float64Array): void {
    const { values, width, frames } = this;
    const [a, b] = [this.start + from, this.start + to];
    const span = to - from;
    const t2 = t * t;
    const t3 = t2 * t;
    let square = 0;
    for (let k = 0; k < width; k++) {
      const p =
        (2 * t3 - 3 * t2 + 1) * values[a * width + k]! +
        span * (t3 - 2 * t2 + t) * keySlope(values, width, frames, a, b, k) +
        (-2 * t3 + 3 * t2) * values[b * width + k]! +
        span * (t3 - t2) * keySlope(values, width, frames, b, a, k);
      out[k] = p;
      square += p * p;
    }
    if (width === 4) for (let k = 0; k < 4; k++) out[k]! /= Math.sqrt(square) || 1;
  }

  /** Writes a track at a half sample, between the keys around it. */
  kept(half: number, out: Float64Array): void {
    this.between(this.keyBefore(half >> 1), this.keyAfter((half + 1) >> 1), half / 2, out);
  }

  /** Writes a track of the motion itself at a half sample. */
  own(half: number, out: Float64Array): void {
    const { values, width } = this;
    const a = (this.start + (half >> 1)) * width;
    if (half % 2 === 0) for (let k = 0; k < width; k++) out[k] = values[a + k]!;
    else if (width === 4) quatSlerp(values, a, values, a + 4, 0.5, out, 0);
    else for (let k = 0; k < 3; k++) out[k] = (values[a + k]! + values[a + 3 + k]!) / 2;
  }
}

/** Angle between two unit quaternions, radians; exact for small ones, where the arc cosine of their product is not. */
export function angleBetween(
  a: Float32Array | Float64Array,
  ao: number,
  b: Float32Array,
  bo: number,
): number {
  let [plus, minus] = [0, 0];
  for (let k = 0; k < 4; k++) {
    plus += (a[ao + k]! + b[bo + k]!) ** 2;
    minus += (a[ao + k]! - b[bo + k]!) ** 2;
  }
  return 4 * Math.asin(Math.min(1, Math.sqrt(Math.min(plus, minus)) / 2));
}

/**
 * Slope of a component with which a cubic leaves a key, or arrives at it, a sample: that of the motion there, half the way from the sample
 * before to the one after; between samples next to each other the straight one, so that nothing swings out there.
 *
 * @param other sample of the key on the other end
 */
export function keySlope(
  values: Float32Array,
  width: number,
  frames: number,
  sample: number,
  other: number,
  k: number,
): number {
  const isNext = Math.abs(other - sample) === 1;
  const [before, after] = isNext
    ? [Math.min(sample, other), Math.max(sample, other)]
    : [Math.max(0, sample - 1), Math.min(frames - 1, sample + 1)];
  return after > before ? (values[after * width + k]! - values[before * width + k]!) / (after - before) : 0;
}
