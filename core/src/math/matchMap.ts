import type { Motions } from './pairSums';
import { PAIR_SUMS, pairRow, pairRows } from './pairSums';
import type { WholeWindows } from './slidingWindow';
import { SlidingWindow } from './slidingWindow';

/**
 * The distances of all pairs of moments of two motions (Kovar, Gleicher, Pighin, "Motion Graphs", SIGGRAPH 2002, section
 * 3.1): for each pair the weighted clouds of a window of frames are brought together by the best floor move, and the root
 * mean square distance of the joints is taken.
 *
 * With a = S w (x z' - x' z) - (X Z' - X' Z)/W and b = S w (x x' + z z') - (X X' + Z Z')/W the smallest sum of squares is
 * S w (|p|^2 + |p'|^2) - (X^2 + Z^2 + X'^2 + Z'^2)/W - 2 S w y y' - 2 sqrt(a^2 + b^2), so no move has to be solved. The
 * sums over the joints of each pair of frames are made once, and shared by all the windows along their diagonal.
 */

/** Sums over the joints of one frame: x, z, and the squared lengths. */
const FRAME_SUMS = 3;

/** A Hann window of an odd number of frames about 2 half + 1, its weights positive and symmetric. */
export function hannWindow(half: number): Float64Array {
  return Float64Array.from({ length: 2 * half + 1 }, (_, i) => {
    const u = (i - half) / (half + 1);
    return 0.5 + 0.5 * Math.cos(Math.PI * u);
  });
}

/** Two motions to be compared: frames x joints x 3 places in metres, of the same joints. */
export interface MatchInput {
  readonly outgoing: Float64Array;
  readonly outgoingFrames: number;
  readonly incoming: Float64Array;
  readonly incomingFrames: number;
  readonly joints: number;
  /** Half width, in frames, of the Hann window around each moment; what reaches beyond a motion's ends is left out. */
  readonly half: number;
}

/**
 * Writes the distances in metres, outgoing frames x incoming frames, a row at a time; yields the finished share.
 *
 * @returns outgoingFrames x incomingFrames
 */
export function* matchMapSteps(input: MatchInput): Generator<number, Float32Array> {
  const { outgoingFrames: n, half } = input;
  const rows = new MapRows(input);
  // Two rows of pairs at a time; a row of the map is ready once the pairs half a window further are known.
  let done = 0;
  for (let f = 0; f < n; f += 2) {
    rows.readPairs(f);
    for (const ready = Math.min(f + 2, n) - half; done < ready; done++) rows.write(done);
    if ((f & 15) === 0) yield f / n;
  }
  for (; done < n; done++) rows.write(done);
  return rows.map;
}

/** The map in one go. */
export function matchMap(input: MatchInput): Float32Array {
  const steps = matchMapSteps(input);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** A map in the making, and the last rows of pairs that its windows reach over. */
class MapRows {
  readonly map: Float32Array;
  private readonly motions: Motions;
  private readonly window: Float64Array;
  private readonly outgoing: Float64Array;
  private readonly incoming: Float64Array;
  private readonly whole: WholeWindows;
  private readonly sliding: SlidingWindow;
  /** Rows of pairs that are kept, in turn: two whole windows' reach, and the two that are read ahead. */
  private readonly kept: number;
  private readonly pairs: Float64Array;

  constructor(private readonly input: MatchInput) {
    const { outgoingFrames: n, incomingFrames: m, joints, half } = input;
    // Far from the origin the sums would lose digits: both motions are moved to their middles, both by the same height.
    const { outgoing, incoming } = input;
    const height = (mean(outgoing, 1, n * joints) + mean(incoming, 1, m * joints)) / 2;
    this.motions = {
      ...input,
      outgoing: aboutMiddle(outgoing, n, joints, height),
      incoming: aboutMiddle(incoming, m, joints, height),
    };
    this.map = new Float32Array(n * m);
    this.window = hannWindow(half);
    this.outgoing = frameSums(this.motions.outgoing, n, joints);
    this.incoming = frameSums(this.motions.incoming, m, joints);
    this.whole = {
      outgoing: windowed(this.outgoing, n, this.window),
      incoming: windowed(this.incoming, m, this.window),
      weight: this.window.reduce((s, w) => s + w, 0) * joints,
    };
    this.sliding = new SlidingWindow(n + m, half);
    this.kept = 2 * half + 4;
    this.pairs = new Float64Array(this.kept * m * PAIR_SUMS);
  }

  private rowOf(f: number): number {
    return (f % this.kept) * this.input.incomingFrames * PAIR_SUMS;
  }

  /** Reads the pairs of outgoing frames f and, where there is one, f + 1. */
  readPairs(f: number): void {
    if (f + 1 < this.input.outgoingFrames)
      pairRows(this.motions, f, this.pairs, this.rowOf(f), this.rowOf(f + 1));
    else pairRow(this.motions, f, this.pairs, this.rowOf(f));
  }

  /** Writes row f of the map: windows that lie wholly inside slide, those that reach beyond an end are summed one by one. */
  write(f: number): void {
    const { outgoingFrames: n, incomingFrames: m, half } = this.input;
    const inside = f >= half && f < n - half && m > 2 * half;
    if (!inside) {
      for (let g = 0; g < m; g++) this.writeOne(f, g);
      return;
    }
    for (let g = 0; g < half; g++) {
      this.writeOne(f, g);
      this.writeOne(f, m - 1 - g);
    }
    // A diagonal is known by g - f, counted from the one that begins at the last outgoing frame.
    const diagonal = half - f + n;
    const count = m - 2 * half;
    // Where a diagonal begins its first whole window is summed one by one, and slides from there on.
    this.writeOne(f, half);
    this.begin(f, half, diagonal);
    if (f === half) {
      for (let k = 1; k < count; k++) {
        this.writeOne(f, half + k);
        this.begin(f, half + k, diagonal + k);
      }
      return;
    }
    this.sliding.slide(
      diagonal + 1,
      count - 1,
      this.pairs,
      this.rowOf(f - 1 - half),
      this.rowOf(f + half) + (2 * half + 1) * PAIR_SUMS,
      this.whole,
      f,
      half + 1,
      this.map,
      f * m + half + 1,
    );
  }

  private begin(f: number, g: number, diagonal: number): void {
    const { half } = this.input;
    this.sliding.begin(diagonal);
    for (let j = -half; j <= half; j++)
      this.sliding.add(diagonal, j, this.pairs, this.rowOf(f + j) + (g + j) * PAIR_SUMS);
  }

  /** Distance of one pair, from the sums of the pairs that its window reaches. */
  private writeOne(f: number, g: number): void {
    const { outgoingFrames: n, incomingFrames: m, joints, half } = this.input;
    const { outgoing: a, incoming: b, pairs } = this;
    let W = 0;
    let X = 0;
    let Z = 0;
    let X2 = 0;
    let Z2 = 0;
    let squares = 0;
    let cross = 0;
    let dot = 0;
    let up = 0;
    const from = Math.max(-half, -f, -g);
    const to = Math.min(half, n - 1 - f, m - 1 - g);
    let p = (f + from) * FRAME_SUMS;
    let q = (g + from) * FRAME_SUMS;
    const next = (m + 1) * PAIR_SUMS;
    let r = this.rowOf(f + from) + (g + from) * PAIR_SUMS;
    for (let j = from; j <= to; j++) {
      // Back from the last of the kept rows to the first.
      if (r >= pairs.length) r -= pairs.length;
      const w = this.window[j + half]!;
      W += w * joints;
      X += w * a[p]!;
      Z += w * a[p + 1]!;
      X2 += w * b[q]!;
      Z2 += w * b[q + 1]!;
      squares += w * (a[p + 2]! + b[q + 2]!);
      cross += w * pairs[r]!;
      dot += w * pairs[r + 1]!;
      up += w * pairs[r + 2]!;
      p += FRAME_SUMS;
      q += FRAME_SUMS;
      r += next;
    }
    const u = cross - (X * Z2 - X2 * Z) / W;
    const v = dot - (X * X2 + Z * Z2) / W;
    const sum = squares - (X * X + Z * Z + X2 * X2 + Z2 * Z2) / W - 2 * up - 2 * Math.sqrt(u * u + v * v);
    this.map[f * m + g] = Math.sqrt(Math.max(0, sum) / W);
  }
}

/** Mean of one coordinate of `count` places. */
function mean(places: Float64Array, k: number, count: number): number {
  let sum = 0;
  for (let p = k; p < count * 3; p += 3) sum += places[p]!;
  return sum / count;
}

/** A motion moved so that its middle on the floor is the origin, and lowered by `height`; laid out as `Motions` are. */
function aboutMiddle(places: Float64Array, frames: number, joints: number, height: number): Float64Array {
  const x = mean(places, 0, frames * joints);
  const z = mean(places, 2, frames * joints);
  const out = new Float64Array(places.length);
  for (let f = 0; f < frames; f++) {
    const o = f * joints * 3;
    for (let j = 0; j < joints; j++) {
      const p = o + j * 3;
      out[o + j] = places[p]! - x;
      out[o + joints + j] = places[p + 2]! - z;
      out[o + 2 * joints + j] = places[p + 1]! - height;
    }
  }
  return out;
}

function frameSums(places: Float64Array, frames: number, joints: number): Float64Array {
  const out = new Float64Array(frames * FRAME_SUMS);
  for (let f = 0; f < frames; f++) {
    for (let j = 0, p = f * joints * 3; j < joints; j++, p++) {
      const x = places[p]!;
      const z = places[p + joints]!;
      const y = places[p + 2 * joints]!;
      out[f * FRAME_SUMS]! += x;
      out[f * FRAME_SUMS + 1]! += z;
      out[f * FRAME_SUMS + 2]! += x * x + y * y + z * z;
    }
  }
  return out;
}

/** Sums of each frame under a window that lies wholly inside; the others are not used. */
function windowed(sums: Float64Array, frames: number, window: Float64Array): Float64Array {
  const half = window.length >> 1;
  const out = new Float64Array(frames * FRAME_SUMS);
  for (let f = half; f < frames - half; f++)
    for (let j = -half; j <= half; j++)
      for (let k = 0; k < FRAME_SUMS; k++)
        out[f * FRAME_SUMS + k]! += window[j + half]! * sums[(f + j) * FRAME_SUMS + k]!;
  return out;
}
