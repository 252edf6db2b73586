import { quatMultiply, quatRotate } from '../math/quaternion';
import type { ExactSpan, KeyInterpolation, LocalTracks } from './reduceKeys';
import { ThinnedTrack, angleBetween } from './thinnedTrack';

/** The keys that a block keeps: samples of the whole motion, joint by joint. */
export interface KeptOfBlock {
  readonly turns: readonly (readonly number[])[];
  /** Empty for a joint that only turns. */
  readonly places: readonly (readonly number[])[];
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

/** Numbers of a joint's world transform: its place, then its turn (xyzw). */
const WORLD = 7;
/** Most rounds in which keys are taken out again, and the part of them that has to go in one for another. */
const PRUNINGS = 3;
const WORTH_A_ROUND = 0.01;

const _q = new Float64Array(4);
const _v = new Float64Array(3);
/** World transforms of one half sample, for a try. */
let _try = new Float32Array(0);

/**
 * The tracks of samples [start, end] with the keys that are kept of them. Places in time are counted in half samples from the start of
 * the block, so that what happens between two keys that are samples apart is seen as well.
 */
export class BlockOfTracks {
  private readonly samples: number;
  private readonly joints: number;
  private readonly turns: ThinnedTrack[];
  private readonly places: (ThinnedTrack | null)[];
  /** joints x samples: how far a joint may come off, metres. */
  private readonly limit: Float32Array;
  /** joints x joints: length of the way from a joint down to another; -1 where that does not hang on it. */
  private readonly way: Float64Array;
  private readonly isLast: boolean[];
  /** halves x joints x 7: place and turn of every joint in the motion itself. */
  private readonly truth: Float32Array;
  /** The same of the keys that are kept. */
  private readonly current: Float32Array;
  /** Of each joint, itself and all that hang on it, in order. */
  private readonly below: readonly (readonly number[])[];

  constructor(
    private readonly tracks: LocalTracks,
    private readonly start: number,
    end: number,
    limits: ErrorLimits,
    interpolation: KeyInterpolation,
  ) {
    this.samples = end - start + 1;
    this.joints = tracks.parents.length;
    if (_try.length < this.joints * WORLD) _try = new Float32Array(this.joints * WORLD);
    const trackOf = (joint: number, width: 3 | 4, all: Float32Array): ThinnedTrack =>
      new ThinnedTrack(joint, width, all, start, this.samples, interpolation);
    this.turns = tracks.rotations.map((all, j) => trackOf(j, 4, all));
    this.places = tracks.translations.map((all, j) => (all ? trackOf(j, 3, all) : null));
    const hasChildren = new Set(tracks.parents);
    this.isLast = this.turns.map((_, j) => !hasChildren.has(j));
    this.way = waysDown(tracks);
    this.limit = this.limitsOf(limits);
    this.below = this.turns.map((_, j) =>
      this.turns.map((__, d) => d).filter((d) => this.way[j * this.joints + d]! >= 0),
    );
    this.truth = new Float32Array((2 * this.samples - 1) * this.joints * WORLD);
    this.current = new Float32Array(this.truth.length);
    for (let h = 0; h < 2 * this.samples - 1; h++) this.worldAt(h, 0, true, this.truth);
  }

  /**
   * Leaves out keys, each joint coming off by a share of the error by itself, puts back what is missing where joints add up, and takes out
   * what then is not needed.
   */
  reduce(share: number): KeptOfBlock {
    this.leaveOut(share);
    this.repair();
    this.prune();
    const errorMetres = this.largestError();
    const turns = this.turns.map((track) => track.keys());
    const places = this.places.map((track) => track?.keys() ?? []);
    return { turns, places, errorMetres };
  }

  /** Keeps of each track the fewest keys with which a joint alone comes off by no more than a share of the error. */
  private leaveOut(share: number): void {
    const tolerance = new Float64Array(this.samples);
    for (const track of this.turns) {
      this.tolerances(track.joint, true, share, tolerance);
      track.thin(tolerance);
    }
    for (const track of this.places) {
      if (!track) continue;
      this.tolerances(track.joint, false, share, tolerance);
      track.thin(tolerance);
    }
  }

  /** Puts keys back where joints come off further than they may, those that add most first, until none does. */
  private repair(): void {
    const halves = 2 * this.samples - 1;
    const excess = new Float64Array(halves);
    for (let h = 0; h < halves; h++) this.worldAt(h, 0, false, this.current);
    const stale = new Uint8Array(halves).fill(1);
    for (let mended = true; mended;) {
      for (let h = 0; h < halves; h++) if (stale[h]) excess[h] = this.excessAt(h);
      stale.fill(0);
      mended = false;
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
    }
  }

  /** Takes keys out again that are not needed, those that change least first: what was put back elsewhere may have made room. */
  private prune(): void {
    const tracks = [...this.turns, ...this.places].filter((t) => t !== null);
    for (let round = 0; round < PRUNINGS; round++) {
      const candidates: { readonly track: ThinnedTrack; readonly sample: number; readonly change: number }[] =
        [];
      for (const track of tracks) {
        const reach = track.width === 4 ? this.reachOf(track.joint) : 1;
        for (let s = 1; s < this.samples - 1; s++) {
          if (!track.isKey[s]) continue;
          const out = track.width === 4 ? _q : _v;
          track.between(track.keyBefore(s - 1), track.keyAfter(s + 1), s, out);
          candidates.push({ track, sample: s, change: track.distance(s, out) * reach });
        }
      }
      candidates.sort((a, b) => a.change - b.change || a.track.joint - b.track.joint || a.sample - b.sample);
      let taken = 0;
      for (const { track, sample } of candidates) if (this.isNotNeeded(track, sample)) taken++;
      if (taken < candidates.length * WORTH_A_ROUND) return;
    }
  }

  /** Takes a key out where no joint then comes off further than it may. */
  private isNotNeeded(track: ThinnedTrack, sample: number): boolean {
    const [from, to] = [track.keyBefore(sample - 1), track.keyAfter(sample + 1)];
    track.isKey[sample] = 0;
    for (let h = from * 2 + 1; h < to * 2; h++) {
      this.worldAt(h, track.joint, false, this.current, _try);
      for (const j of this.below[track.joint]!) {
        if (this.errorOf(j, h, _try, 0) <= this.limitAt(j, h)) continue;
        track.isKey[sample] = 1;
        return false;
      }
    }
    for (let h = from * 2 + 1; h < to * 2; h++) this.worldAt(h, track.joint, false, this.current);
    return true;
  }

  /** The furthest that hangs on a joint, by its way down. */
  private reachOf(joint: number): number {
    let reach = 0;
    for (const d of this.below[joint]!) reach = Math.max(reach, this.way[joint * this.joints + d]!);
    return reach + LEVER;
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

  /**
   * Writes where a joint, and all that hang on it, are at a half sample: of the motion itself, or of the kept keys.
   *
   * @param known world transforms of all halves; what the joint hangs on is read from there
   * @param out those of one half alone; default the half's place in `known`
   */
  private worldAt(
    half: number,
    joint: number,
    isOwn: boolean,
    known: Float32Array,
    out?: Float32Array,
  ): void {
    const { parents, offsets } = this.tracks;
    const base = half * this.joints * WORLD;
    const target = out ?? known;
    const shift = out ? 0 : base;
    for (const j of joint === 0 ? this.turns.keys() : this.below[joint]!) {
      const turn = this.turns[j]!;
      const place = this.places[j];
      if (isOwn) turn.own(half, _q);
      else turn.kept(half, _q);
      if (!place) for (let k = 0; k < 3; k++) _v[k] = offsets[j * 3 + k]!;
      else if (isOwn) place.own(half, _v);
      else place.kept(half, _v);
      const up = parents[j]!;
      const at = shift + j * WORLD;
      if (up < 0) {
        for (let k = 0; k < 3; k++) target[at + k] = _v[k]!;
        for (let k = 0; k < 4; k++) target[at + 3 + k] = _q[k]!;
        continue;
      }
      // What is not moved by the joint itself is known already.
      const isKnown = joint !== 0 && j === joint;
      const [above, source] = isKnown ? [base + up * WORLD, known] : [shift + up * WORLD, target];
      quatMultiply(source, above + 3, _q, 0, target, at + 3);
      quatRotate(source, above + 3, _v, 0, target, at);
      for (let k = 0; k < 3; k++) target[at + k]! += source[above + k]!;
    }
  }

  /** How far a joint is from its place at a half sample; of a last joint, what hangs on it as well. */
  private errorOf(joint: number, half: number, world: Float32Array, shift: number): number {
    const at = (half * this.joints + joint) * WORLD;
    const own = shift + joint * WORLD;
    const x = world[own]! - this.truth[at]!;
    const y = world[own + 1]! - this.truth[at + 1]!;
    const z = world[own + 2]! - this.truth[at + 2]!;
    const away = Math.sqrt(x * x + y * y + z * z);
    return this.isLast[joint] ? away + LEVER * angleBetween(world, own + 3, this.truth, at + 3) : away;
  }

  private currentError(joint: number, half: number): number {
    return this.errorOf(joint, half, this.current, half * this.joints * WORLD);
  }

  private largestError(): number {
    let largest = 0;
    for (let h = 0; h < 2 * this.samples - 1; h++)
      for (let j = 0; j < this.joints; j++) largest = Math.max(largest, this.currentError(j, h));
    return largest;
  }

  private limitAt(joint: number, half: number): number {
    const at = joint * this.samples;
    return Math.min(this.limit[at + (half >> 1)]!, this.limit[at + ((half + 1) >> 1)]!);
  }

  /** The most that any joint comes off at a half sample, in times what it may. */
  private excessAt(half: number): number {
    let most = 0;
    for (let j = 0; j < this.joints; j++)
      most = Math.max(most, this.currentError(j, half) / this.limitAt(j, half));
    return most;
  }

  /** Gives the track that adds most to the worst joint at a half sample a key there; false where all have it. */
  private mend(half: number, stale: Uint8Array): boolean {
    let worst = 0;
    let most = 0;
    for (let j = 0; j < this.joints; j++) {
      const excess = this.currentError(j, half) / this.limitAt(j, half);
      if (excess > most) [worst, most] = [j, excess];
    }
    let best: { track: ThinnedTrack; sample: number; adds: number } | null = null;
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
          track.kept(sample * 2, out);
          const adds = track.distance(sample, out) * by;
          if (!best || adds > best.adds) best = { track, sample, adds };
        }
      }
    }
    if (!best) return false;
    const { track, sample } = best;
    const [from, to] = [track.keyBefore(sample - 1), track.keyAfter(sample + 1)];
    track.isKey[sample] = 1;
    for (let h = from * 2 + 1; h < to * 2; h++) {
      this.worldAt(h, track.joint, false, this.current);
      stale[h] = 1;
    }
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
