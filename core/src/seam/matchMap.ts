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
  const { outgoingFrames: n, incomingFrames: m, joints, window } = input;
  const half = window.length >> 1;
  const map = new Float32Array(n * m);
  // Far from the origin the sums would lose digits: both motions are moved to their middles.
  const centred = {
    ...input,
    outgoing: aboutMiddle(input.outgoing, n * joints),
    incoming: aboutMiddle(input.incoming, m * joints),
  };
  const a = frameSums(centred.outgoing, n, joints);
  const b = frameSums(centred.incoming, m, joints);
  const whole = { a: windowed(a, n, window), b: windowed(b, m, window), weight: sum(window) * joints };
  const hann = isHann(window);
  const most = Math.min(n, m);
  // Two diagonals at a time, so that each outgoing frame is read once for both.
  const pairs = [new Float64Array(most * PAIR_SUMS), new Float64Array(most * PAIR_SUMS)] as const;
  const start = (d: number): number => Math.max(0, -d);
  const lengthOf = (d: number): number => Math.max(0, Math.min(n, m - d) - start(d));
  for (let d = 1 - n; d < m; d += 2) {
    diagonalSums(centred, d, start(d), lengthOf(d), start(d + 1), lengthOf(d + 1), pairs);
    for (let k = 0; k < 2; k++) {
      const first = start(d + k);
      const length = lengthOf(d + k);
      // Windows that reach beyond a motion are summed one by one, those inside by sliding along the diagonal.
      const inside = hann && length > 2 * half ? length - half : half;
      if (inside > half) slideHann(pairs[k]!, half, inside, whole, first, d + k, m, map);
      for (let i = 0; i < length; i++) {
        if (i === half && inside > half) i = inside;
        if (i >= length) break;
        map[(first + i) * m + first + i + d + k] = distance(
          centred,
          a,
          b,
          pairs[k]!,
          first,
          d + k,
          i,
          length,
          half,
        );
      }
    }
    if ((d & 31) < 2) yield (d + n) / (n + m);
  }
  return map;
}

const sum = (values: Float64Array): number => values.reduce((s, v) => s + v, 0);

/** A cloud moved so that its middle on the floor is the origin. */
function aboutMiddle(places: Float64Array, count: number): Float64Array {
  let [x, z] = [0, 0];
  for (let p = 0; p < count * 3; p += 3) {
    x += places[p]! / count;
    z += places[p + 2]! / count;
  }
  const out = new Float64Array(count * 3);
  for (let p = 0; p < count * 3; p += 3) {
    out[p] = places[p]! - x;
    out[p + 1] = places[p + 1]!;
    out[p + 2] = places[p + 2]! - z;
  }
  return out;
}

/** Sums over the joints of the pairs of two neighbouring diagonals, d and d + 1. */
function diagonalSums(
  input: MatchInput,
  d: number,
  first: number,
  length: number,
  firstNext: number,
  lengthNext: number,
  out: readonly [Float64Array, Float64Array],
): void {
  const { outgoing, incoming, joints } = input;
  const from = Math.max(first, firstNext);
  const to = Math.min(first + length, firstNext + lengthNext);
  for (let f = first; f < Math.min(from, first + length); f++)
    pairSums(input, f, f + d, out[0], (f - first) * PAIR_SUMS);
  for (let f = firstNext; f < Math.min(from, firstNext + lengthNext); f++)
    pairSums(input, f, f + d + 1, out[1], (f - firstNext) * PAIR_SUMS);
  const row = joints * 3;
  for (let f = from; f < to; f++) {
    let c0 = 0;
    let d0 = 0;
    let u0 = 0;
    let c1 = 0;
    let d1 = 0;
    let u1 = 0;
    let a = (f + d) * row;
    let b = a + row;
    const end = (f + 1) * row;
    for (let p = f * row; p < end; p += 3) {
      const x = outgoing[p]!;
      const y = outgoing[p + 1]!;
      const z = outgoing[p + 2]!;
      const xa = incoming[a]!;
      const za = incoming[a + 2]!;
      c0 += x * za - xa * z;
      d0 += x * xa + z * za;
      u0 += y * incoming[a + 1]!;
      const xb = incoming[b]!;
      const zb = incoming[b + 2]!;
      c1 += x * zb - xb * z;
      d1 += x * xb + z * zb;
      u1 += y * incoming[b + 1]!;
      a += 3;
      b += 3;
    }
    const o = (f - first) * PAIR_SUMS;
    out[0][o] = c0;
    out[0][o + 1] = d0;
    out[0][o + 2] = u0;
    const r = (f - firstNext) * PAIR_SUMS;
    out[1][r] = c1;
    out[1][r + 1] = d1;
    out[1][r + 2] = u1;
  }
  for (let f = Math.max(first, to); f < first + length; f++)
    pairSums(input, f, f + d, out[0], (f - first) * PAIR_SUMS);
  for (let f = Math.max(firstNext, to); f < firstNext + lengthNext; f++)
    pairSums(input, f, f + d + 1, out[1], (f - firstNext) * PAIR_SUMS);
}

/** Whether a window is the one of `hannWindow`, which can be slid. */
function isHann(window: Float64Array): boolean {
  const hann = hannWindow(window.length >> 1);
  return window.length > 1 && window.every((v, i) => Math.abs(v - hann[i]!) < 1e-12);
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

/** Sums of frames under whole windows, and the weight of one. */
interface Whole {
  readonly a: Float64Array;
  readonly b: Float64Array;
  readonly weight: number;
}

/**
 * Distances about the places half..inside - 1 of a diagonal, whose Hann windows lie wholly inside. The window is half a
 * constant and half a cosine, so that each sum over it follows from the one before by a turn of the cosine's phase (a
 * sliding Fourier term).
 */
function slideHann(
  pairs: Float64Array,
  half: number,
  inside: number,
  whole: Whole,
  first: number,
  diagonal: number,
  columns: number,
  map: Float32Array,
): void {
  const angle = Math.PI / (half + 1);
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  // Phase of the sample that comes in, half places ahead; the one that leaves has its conjugate.
  const [ce, se] = [Math.cos(angle * half), Math.sin(angle * half)];
  const state = new Float64Array(9);
  for (let j = -half; j <= half; j++)
    for (let k = 0; k < PAIR_SUMS; k++) {
      const v = pairs[(half + j) * PAIR_SUMS + k]!;
      state[k * 3]! += v;
      state[k * 3 + 1]! += v * Math.cos(angle * j);
      state[k * 3 + 2]! += v * Math.sin(angle * j);
    }
  let [b0, r0, i0, b1, r1, i1, b2, r2, i2] = state as unknown as number[] as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const { a, b, weight } = whole;
  const each = 1 / weight;
  for (let i = half; i < inside; i++) {
    if (i > half) {
      const from = (i - 1 - half) * PAIR_SUMS;
      const to = (i + half) * PAIR_SUMS;
      let old = pairs[from]!;
      let next = pairs[to]!;
      b0 += next - old;
      let r = r0 - old * ce;
      let q = i0 + old * se;
      r0 = r * c + q * s + next * ce;
      i0 = q * c - r * s + next * se;
      old = pairs[from + 1]!;
      next = pairs[to + 1]!;
      b1 += next - old;
      r = r1 - old * ce;
      q = i1 + old * se;
      r1 = r * c + q * s + next * ce;
      i1 = q * c - r * s + next * se;
      old = pairs[from + 2]!;
      next = pairs[to + 2]!;
      b2 += next - old;
      r = r2 - old * ce;
      q = i2 + old * se;
      r2 = r * c + q * s + next * ce;
      i2 = q * c - r * s + next * se;
    }
    const p = (first + i) * FRAME_SUMS;
    const g = first + i + diagonal;
    const X = a[p]!;
    const Z = a[p + 1]!;
    const X2 = b[g * FRAME_SUMS]!;
    const Z2 = b[g * FRAME_SUMS + 1]!;
    const u = 0.5 * (b0 + r0) - (X * Z2 - X2 * Z) * each;
    const v = 0.5 * (b1 + r1) - (X * X2 + Z * Z2) * each;
    const squares = a[p + 2]! + b[g * FRAME_SUMS + 2]! - (X * X + Z * Z + X2 * X2 + Z2 * Z2) * each;
    const total = squares - (b2 + r2) - 2 * Math.sqrt(u * u + v * v);
    map[(first + i) * columns + g] = total > 0 ? Math.sqrt(total * each) : 0;
  }
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
  let W = 0;
  let X = 0;
  let Z = 0;
  let X2 = 0;
  let Z2 = 0;
  let squares = 0;
  let cross = 0;
  let dot = 0;
  let up = 0;
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
  const u = cross - (X * Z2 - X2 * Z) / W;
  const v = dot - (X * X2 + Z * Z2) / W;
  const turn = Math.sqrt(u * u + v * v);
  const sum = squares - (X * X + Z * Z + X2 * X2 + Z2 * Z2) / W - 2 * up - 2 * turn;
  return Math.sqrt(Math.max(0, sum) / W);
}
