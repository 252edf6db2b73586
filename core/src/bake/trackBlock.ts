import { quatMultiply, quatRotate, quatSlerp } from '../math/quaternion';
import type { ExactSpan, KeyInterpolation, LocalTracks } from './reduceKeys';

/** The keys that a block keeps: samples of the whole motion, joint by joint. */
export interface KeptOfBlock {
  readonly turns: readonly (readonly number[])[];
  /** Empty for a joint that only turns. */
  readonly places: readonly (readonly number[])[];
  /** Keys of all tracks. */
  readonly count: number;
  /** Largest distance of a joint from its place. */
  readonly errorMetres: number;
}

/** How far joints may come off their places, metres. */
export interface ErrorLimits {
  readonly errorMetres: number;
  readonly exactMetres: number;
  readonly exact: readonly ExactSpan[];
}

/** Metres from a last joint at which its turn is looked at: skin reaches about so far. */
const LEVER = 0.05;

const _q = new Float64Array(4);
const _v = new Float64Array(3);

/** One joint's track within a block: which samples are keys. */
interface Track {
  readonly joint: number;
  readonly width: 3 | 4;
  readonly values: Float32Array;
  /** samples of the block: 1 where a key is. */
  readonly isKey: Uint8Array;
}

/**
 * The tracks of samples [start, end] with the keys that are kept of them. Places in time are counted in half samples from the start of
 * the block, so that what happens between two keys that are samples apart is seen as well.
 */
export class BlockOfTracks {
  private readonly samples: number;
  private readonly joints: number;
  private readonly turns: Track[];
  private readonly places: (Track | null)[];
  /** joints x samples: how far a joint may come off, metres. */
  private readonly limit: Float32Array;
  /** joints x joints: length of the way from a joint down to another; -1 where that does not hang on it. */
  private readonly way: Float64Array;
  private readonly isLast: boolean[];
  /** Positions (and turns of last joints) of the motion itself at each half sample; see `worldAt`. */
  private readonly truth: Float32Array;
  private readonly world: { q: Float64Array; p: Float64Array };

  constructor(
    private readonly tracks: LocalTracks,
    private readonly start: number,
    end: number,
    limits: ErrorLimits,
    private readonly interpolation: KeyInterpolation,
  ) {
    this.samples = end - start + 1;
    this.joints = tracks.parents.length;
    const trackOf = (joint: number, width: 3 | 4, all: Float32Array): Track => ({
      joint,
      width,
      values: all,
      isKey: new Uint8Array(this.samples).fill(1),
    });
    this.turns = tracks.rotations.map((all, j) => trackOf(j, 4, all));
    this.places = tracks.translations.map((all, j) => (all ? trackOf(j, 3, all) : null));
    const hasChildren = new Set(tracks.parents);
    this.isLast = this.turns.map((_, j) => !hasChildren.has(j));
    this.way = waysDown(tracks);
    this.limit = this.limitsOf(limits);
    this.world = { q: new Float64Array(this.joints * 4), p: new Float64Array(this.joints * 3) };
    this.truth = this.trueWorld();
  }

  /**
   * Leaves out keys, each joint coming off by a share of the error by itself, and puts back what is missing where joints add up.
   * Can be called again with another share.
   */
  reduce(share: number): KeptOfBlock {
    this.leaveOut(share);
    const errorMetres = this.repair();
    const turns = this.turns.map((track) => this.keysOf(track));
    const places = this.places.map((track) => (track ? this.keysOf(track) : []));
    const count = [...turns, ...places].reduce((sum, keys) => sum + keys.length, 0);
    return { turns, places, count, errorMetres };
  }

  /** The samples of the whole motion that are keys of a track. */
  private keysOf({ isKey }: Track): number[] {
    const keys: number[] = [];
    isKey.forEach((key, s) => key && keys.push(this.start + s));
    return keys;
  }

  /** Keeps of each track the fewest keys with which a joint alone comes off by no more than a share of the error. */
  private leaveOut(share: number): void {
    const tolerance = new Float64Array(this.samples);
    for (const track of this.turns) {
      this.tolerances(track.joint, true, share, tolerance);
      this.thin(track, tolerance);
    }
    for (const track of this.places) {
      if (!track) continue;
      this.tolerances(track.joint, false, share, tolerance);
      this.thin(track, tolerance);
    }
  }

  /** Puts keys back where joints come off further than they may, those that add most first, until none does. */
  private repair(): number {
    const halves = 2 * this.samples - 1;
    const excess = new Float64Array(halves);
    const errors = new Float64Array(halves);
    let stale = new Uint8Array(halves).fill(1);
    for (;;) {
      for (let h = 0; h < halves; h++) if (stale[h]) this.measure(h, excess, errors);
      stale = new Uint8Array(halves);
      let mended = false;
      for (let h = 0; h < halves;) {
        if (excess[h]! <= 1) {
          h++;
          continue;
        }
        // The worst of each stretch gets its key.
        let worst = h;
        for (; h < halves && excess[h]! > 1; h++) if (excess[h]! > excess[worst]!) worst = h;
        // Where every sample is a key already nothing can be done: cubics need not go through what is halfway.
        if (!this.mend(worst, stale)) excess[worst] = 0;
        mended = true;
      }
      if (!mended) return errors.reduce((largest, error) => Math.max(largest, error), 0);
    }
  }

  /** Length of time a joint's limits allow, per sample. */
  private tolerances(joint: number, isTurn: boolean, share: number, out: Float64Array): void {
    out.fill(Infinity);
    for (let d = joint; d < this.joints; d++) {
      const way = this.way[joint * this.joints + d]!;
      if (way < 0) continue;
      const reach = isTurn ? way + LEVER : 1;
      for (let s = 0; s < this.samples; s++)
        out[s] = Math.min(out[s]!, (share * this.limit[d * this.samples + s]!) / reach);
    }
  }

  /** Keeps a key as far from the one before as all samples between allow. */
  private thin(track: Track, tolerance: Float64Array): void {
    const { isKey } = track;
    const last = this.samples - 1;
    isKey.fill(0);
    isKey[0] = 1;
    isKey[last] = 1;
    for (let from = 0; from < last;) {
      let fits = from + 1;
      let step = 1;
      while (fits < last && this.holds(track, from, Math.min(fits + step, last), tolerance)) {
        fits = Math.min(fits + step, last);
        step *= 2;
      }
      // The last doubling went too far: what still holds lies within it.
      for (step >>= 1; step >= 1; step >>= 1) {
        const to = fits + step;
        if (to <= last && this.holds(track, from, to, tolerance)) fits = to;
      }
      isKey[fits] = 1;
      from = fits;
    }
  }

  private holds(track: Track, from: number, to: number, tolerance: Float64Array): boolean {
    for (let s = from + 1; s < to; s++) {
      this.between(track, from, to, s, track.width === 4 ? _q : _v);
      if (distance(track, this.start + s, track.width === 4 ? _q : _v) > tolerance[s]!) return false;
    }
    return true;
  }

  /** Writes what a reader makes of a track at a real sample between two of its keys. */
  private between(track: Track, from: number, to: number, s: number, out: Float64Array): void {
    const { values, width } = track;
    const [a, b] = [(this.start + from) * width, (this.start + to) * width];
    const t = to > from ? (s - from) / (to - from) : 0;
    if (t === 0) for (let k = 0; k < width; k++) out[k] = values[a + k]!;
    else if (this.interpolation === 'cubic') this.hermite(track, from, to, t, out);
    else if (width === 4) quatSlerp(values, a, values, b, t, out, 0);
    else for (let k = 0; k < 3; k++) out[k] = values[a + k]! + t * (values[b + k]! - values[a + k]!);
  }

  /** As glTF 2.0.1, appendix C.5, with slopes of the motion itself; quaternions are made unit afterwards. */
  private hermite({ values, width }: Track, from: number, to: number, t: number, out: Float64Array): void {
    const [a, b] = [this.start + from, this.start + to];
    const span = to - from;
    const t2 = t * t;
    const t3 = t2 * t;
    let square = 0;
    for (let k = 0; k < width; k++) {
      const p =
        (2 * t3 - 3 * t2 + 1) * values[a * width + k]! +
        span * (t3 - 2 * t2 + t) * keySlope(values, width, this.tracks.frames, a, b, k) +
        (-2 * t3 + 3 * t2) * values[b * width + k]! +
        span * (t3 - t2) * keySlope(values, width, this.tracks.frames, b, a, k);
      out[k] = p;
      square += p * p;
    }
    if (width === 4) for (let k = 0; k < 4; k++) out[k]! /= Math.sqrt(square) || 1;
  }

  /** Writes a track at a half sample, between the keys around it. */
  private kept(track: Track, half: number, out: Float64Array): void {
    let from = half >> 1;
    while (!track.isKey[from]) from--;
    let to = (half + 1) >> 1;
    while (!track.isKey[to]) to++;
    this.between(track, from, to, half / 2, out);
  }

  /** Writes a track of the motion itself at a half sample. */
  private own({ values, width }: Track, half: number, out: Float64Array): void {
    const a = (this.start + (half >> 1)) * width;
    if (half % 2 === 0) for (let k = 0; k < width; k++) out[k] = values[a + k]!;
    else if (width === 4) quatSlerp(values, a, values, a + 4, 0.5, out, 0);
    else for (let k = 0; k < 3; k++) out[k] = (values[a + k]! + values[a + 3 + k]!) / 2;
  }

  /** Computes where joints are at a half sample, of the motion itself or of its kept keys. */
  private worldAt(half: number, isOwn: boolean): void {
    const { parents, offsets } = this.tracks;
    const { q, p } = this.world;
    for (let j = 0; j < this.joints; j++) {
      const turn = this.turns[j]!;
      const place = this.places[j];
      if (isOwn) this.own(turn, half, _q);
      else this.kept(turn, half, _q);
      if (!place) for (let k = 0; k < 3; k++) _v[k] = offsets[j * 3 + k]!;
      else if (isOwn) this.own(place, half, _v);
      else this.kept(place, half, _v);
      const up = parents[j]!;
      if (up < 0) {
        q.set(_q, j * 4);
        p.set(_v, j * 3);
        continue;
      }
      quatMultiply(q, up * 4, _q, 0, q, j * 4);
      quatRotate(q, up * 4, _v, 0, p, j * 3);
      for (let k = 0; k < 3; k++) p[j * 3 + k]! += p[up * 3 + k]!;
    }
  }

  /** halves x joints x 7: place and turn of every joint in the motion itself. */
  private trueWorld(): Float32Array {
    const halves = 2 * this.samples - 1;
    const out = new Float32Array(halves * this.joints * 7);
    for (let h = 0; h < halves; h++) {
      this.worldAt(h, true);
      for (let j = 0; j < this.joints; j++) {
        const at = (h * this.joints + j) * 7;
        out.set(this.world.p.subarray(j * 3, j * 3 + 3), at);
        out.set(this.world.q.subarray(j * 4, j * 4 + 4), at + 3);
      }
    }
    return out;
  }

  /** How far a joint of the last `worldAt` is from its place at a half sample; of a last joint, what hangs on it as well. */
  private errorOf(joint: number, half: number): number {
    const { q, p } = this.world;
    const at = (half * this.joints + joint) * 7;
    const away = Math.hypot(
      p[joint * 3]! - this.truth[at]!,
      p[joint * 3 + 1]! - this.truth[at + 1]!,
      p[joint * 3 + 2]! - this.truth[at + 2]!,
    );
    return this.isLast[joint] ? away + LEVER * angleBetween(q, joint * 4, this.truth, at + 3) : away;
  }

  private limitAt(joint: number, half: number): number {
    const at = joint * this.samples;
    return Math.min(this.limit[at + (half >> 1)]!, this.limit[at + ((half + 1) >> 1)]!);
  }

  private measure(half: number, excess: Float64Array, errors: Float64Array): void {
    this.worldAt(half, false);
    excess[half] = 0;
    errors[half] = 0;
    for (let j = 0; j < this.joints; j++) {
      const error = this.errorOf(j, half);
      excess[half] = Math.max(excess[half], error / this.limitAt(j, half));
      errors[half] = Math.max(errors[half], error);
    }
  }

  /** Gives the track that adds most to the worst joint at a half sample a key there; false where all have it. */
  private mend(half: number, stale: Uint8Array): boolean {
    this.worldAt(half, false);
    let worst = 0;
    let most = 0;
    for (let j = 0; j < this.joints; j++) {
      const excess = this.errorOf(j, half) / this.limitAt(j, half);
      if (excess > most) [worst, most] = [j, excess];
    }
    let best: { track: Track; sample: number; adds: number } | null = null;
    for (let j = worst; j >= 0; j = this.tracks.parents[j]!) {
      const reach = this.way[j * this.joints + worst]! + (this.isLast[worst] ? LEVER : 0);
      for (const [track, by] of [
        [this.turns[j]!, reach],
        [this.places[j] ?? null, 1],
      ] as const) {
        if (!track) continue;
        for (const sample of half % 2 === 0 ? [half >> 1] : [half >> 1, (half + 1) >> 1]) {
          if (track.isKey[sample]) continue;
          const out = track.width === 4 ? _q : _v;
          this.kept(track, sample * 2, out);
          const adds = distance(track, this.start + sample, out) * by;
          if (!best || adds > best.adds) best = { track, sample, adds };
        }
      }
    }
    if (!best) return false;
    const { isKey } = best.track;
    let from = best.sample - 1;
    while (!isKey[from]) from--;
    let to = best.sample + 1;
    while (!isKey[to]) to++;
    isKey[best.sample] = 1;
    stale.fill(1, from * 2, to * 2 + 1);
    return true;
  }

  private limitsOf({ errorMetres, exactMetres, exact }: ErrorLimits): Float32Array {
    const limit = new Float32Array(this.joints * this.samples).fill(errorMetres);
    for (const { joint, start, end } of exact) {
      const from = Math.max(0, start - this.start);
      const to = Math.min(this.samples, end - this.start);
      if (to > from) limit.fill(exactMetres, joint * this.samples + from, joint * this.samples + to);
    }
    return limit;
  }
}

/** How far a value is from a track's own sample: radians, or metres. */
function distance({ values, width }: Track, sample: number, value: Float64Array): number {
  const at = sample * width;
  if (width === 4) return angleBetween(value, 0, values, at);
  return Math.hypot(value[0]! - values[at]!, value[1]! - values[at + 1]!, value[2]! - values[at + 2]!);
}

/** Angle between two unit quaternions, radians; exact for small ones, where the arc cosine of their product is not. */
function angleBetween(a: Float64Array, ao: number, b: Float32Array, bo: number): number {
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

/** joints x joints: lengths of the ways down at rest. */
function waysDown({ parents, offsets }: LocalTracks): Float64Array {
  const joints = parents.length;
  const way = new Float64Array(joints * joints).fill(-1);
  for (let d = 0; d < joints; d++) {
    let length = 0;
    for (let j = d; j >= 0; j = parents[j]!) {
      way[j * joints + d] = length;
      length += Math.hypot(offsets[j * 3]!, offsets[j * 3 + 1]!, offsets[j * 3 + 2]!);
    }
  }
  return way;
}
