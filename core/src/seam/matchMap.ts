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
/** Sums over the joints of a pair: x z' - x' z, x x' + z z', y y'. */
const PAIR_SUMS = 3;

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
  /** Weights of the frames around each moment, an odd number; those beyond a motion's ends are left out. */
  readonly window: Float64Array;
}

/**
 * Writes the distances in metres, outgoing frames x incoming frames, a diagonal at a time; yields the finished share.
 *
 * @returns outgoingFrames x incomingFrames
 */
export function* matchMapSteps(input: MatchInput): Generator<number, Float32Array> {
  const { outgoingFrames: n, incomingFrames: m, window } = input;
  const half = window.length >> 1;
  const map = new Float32Array(n * m);
  const a = frameSums(input.outgoing, n, input.joints);
  const b = frameSums(input.incoming, m, input.joints);
  const pairs = new Float64Array(Math.min(n, m) * PAIR_SUMS);
  for (let d = 1 - n; d < m; d++) {
    const first = Math.max(0, -d);
    const length = Math.min(n, m - d) - first;
    for (let i = 0; i < length; i++) pairSums(input, first + i, first + i + d, pairs, i * PAIR_SUMS);
    for (let i = 0; i < length; i++) {
      map[(first + i) * m + first + i + d] = distance(input, a, b, pairs, first, d, i, length, half);
    }
    if ((d & 31) === 0) yield (d + n) / (n + m);
  }
  return map;
}

/** The map in one go. */
export function matchMap(input: MatchInput): Float32Array {
  const steps = matchMapSteps(input);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

function frameSums(places: Float64Array, frames: number, joints: number): Float64Array {
  const out = new Float64Array(frames * FRAME_SUMS);
  for (let f = 0; f < frames; f++) {
    for (let j = 0; j < joints; j++) {
      const p = (f * joints + j) * 3;
      const x = places[p]!;
      const y = places[p + 1]!;
      const z = places[p + 2]!;
      out[f * FRAME_SUMS]! += x;
      out[f * FRAME_SUMS + 1]! += z;
      out[f * FRAME_SUMS + 2]! += x * x + y * y + z * z;
    }
  }
  return out;
}

function pairSums(
  { outgoing, incoming, joints }: MatchInput,
  f: number,
  g: number,
  out: Float64Array,
  o: number,
): void {
  let cross = 0;
  let dot = 0;
  let up = 0;
  let p = f * joints * 3;
  let q = g * joints * 3;
  for (let j = 0; j < joints; j++, p += 3, q += 3) {
    const x = outgoing[p]!;
    const z = outgoing[p + 2]!;
    const x2 = incoming[q]!;
    const z2 = incoming[q + 2]!;
    cross += x * z2 - x2 * z;
    dot += x * x2 + z * z2;
    up += outgoing[p + 1]! * incoming[q + 1]!;
  }
  out[o] = cross;
  out[o + 1] = dot;
  out[o + 2] = up;
}

/** Distance of the i-th pair of a diagonal, from the sums of the pairs within its window. */
function distance(
  input: MatchInput,
  a: Float64Array,
  b: Float64Array,
  pairs: Float64Array,
  first: number,
  diagonal: number,
  i: number,
  length: number,
  half: number,
): number {
  const { window, joints } = input;
  let [W, X, Z, X2, Z2, squares, cross, dot, up] = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  const from = Math.max(0, i - half);
  const to = Math.min(length - 1, i + half);
  for (let k = from; k <= to; k++) {
    const w = window[k - i + half]!;
    const p = (first + k) * FRAME_SUMS;
    const q = (first + k + diagonal) * FRAME_SUMS;
    const r = k * PAIR_SUMS;
    W += w * joints;
    X += w * a[p]!;
    Z += w * a[p + 1]!;
    X2 += w * b[q]!;
    Z2 += w * b[q + 1]!;
    squares += w * (a[p + 2]! + b[q + 2]!);
    cross += w * pairs[r]!;
    dot += w * pairs[r + 1]!;
    up += w * pairs[r + 2]!;
  }
  const turn = Math.hypot(cross - (X * Z2 - X2 * Z) / W, dot - (X * X2 + Z * Z2) / W);
  const sum = squares - (X * X + Z * Z + X2 * X2 + Z2 * Z2) / W - 2 * up - 2 * turn;
  return Math.sqrt(Math.max(0, sum) / W);
}
