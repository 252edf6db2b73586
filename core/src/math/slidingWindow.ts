import { PAIR_SUMS } from './pairSums';

/** Numbers kept for a diagonal: of each of its three sums the plain one and the turning one (real, imaginary). */
const STATE = 3 * PAIR_SUMS;

/** Sums of single frames, for the distance of a pair: x, z, and the squared lengths, under whole windows. */
export interface WholeWindows {
  readonly outgoing: Float64Array;
  readonly incoming: Float64Array;
  /** Weight of all joints of a whole window. */
  readonly weight: number;
}

/**
 * Sums of pairs under Hann windows that slide along all the diagonals of a map at once, a row at a time. The window is
 * half a constant and half a cosine, so that each sum follows from the one before by a turn of the cosine's phase (a
 * sliding Fourier term). Rows outside, diagonals inside: neighbouring diagonals do not wait for each other, and everything
 * is read in the order in which it lies.
 */
export class SlidingWindow {
  private readonly state: Float64Array;
  private readonly cos: Float64Array;
  private readonly sin: Float64Array;

  constructor(
    diagonals: number,
    private readonly half: number,
  ) {
    this.state = new Float64Array(diagonals * STATE);
    const angle = Math.PI / (half + 1);
    this.cos = Float64Array.from({ length: 2 * half + 1 }, (_, j) => Math.cos(angle * (j - half)));
    this.sin = Float64Array.from({ length: 2 * half + 1 }, (_, j) => Math.sin(angle * (j - half)));
  }

  /** Clears a diagonal, which is about to enter its first whole window. */
  begin(diagonal: number): void {
    this.state.fill(0, diagonal * STATE, (diagonal + 1) * STATE);
  }

  /** Adds the pair at `pairs[o]`, `j` places from the middle of a diagonal's first window. */
  add(diagonal: number, j: number, pairs: Float64Array, o: number): void {
    const s = diagonal * STATE;
    for (let k = 0; k < PAIR_SUMS; k++) {
      const v = pairs[o + k]!;
      this.state[s + k * 3]! += v;
      this.state[s + k * 3 + 1]! += v * this.cos[j + this.half]!;
      this.state[s + k * 3 + 2]! += v * this.sin[j + this.half]!;
    }
  }

  /**
   * Moves the windows of `count` neighbouring diagonals on by one pair, those at `old` leave and those at `fresh` come in,
   * and writes the distances about the windows' middles: outgoing frame f, incoming frames from g on.
   */
  slide(
    diagonal: number,
    count: number,
    pairs: Float64Array,
    old: number,
    fresh: number,
    whole: WholeWindows,
    f: number,
    g: number,
    map: Float32Array,
    o: number,
  ): void {
    const { state } = this;
    const { outgoing, incoming } = whole;
    const angle = Math.PI / (this.half + 1);
    const c = Math.cos(angle);
    const s = Math.sin(angle);
    // Phase of the pair that comes in, half a window ahead; the one that leaves has its conjugate.
    const ce = Math.cos(angle * this.half);
    const se = Math.sin(angle * this.half);
    const each = 1 / whole.weight;
    const x = outgoing[f * 3]!;
    const z = outgoing[f * 3 + 1]!;
    const own = outgoing[f * 3 + 2]! - (x * x + z * z) * each;
    let p = diagonal * STATE;
    let q = g * 3;
    for (let k = 0; k < count; k++, p += STATE, q += 3) {
      const at = k * PAIR_SUMS;
      const left0 = pairs[old + at]!;
      const come0 = pairs[fresh + at]!;
      const plain0 = state[p]! + come0 - left0;
      const real0 = state[p + 1]! - left0 * ce;
      const imag0 = state[p + 2]! + left0 * se;
      const turned0 = real0 * c + imag0 * s + come0 * ce;
      state[p] = plain0;
      state[p + 1] = turned0;
      state[p + 2] = imag0 * c - real0 * s + come0 * se;
      const left1 = pairs[old + at + 1]!;
      const come1 = pairs[fresh + at + 1]!;
      const plain1 = state[p + 3]! + come1 - left1;
      const real1 = state[p + 4]! - left1 * ce;
      const imag1 = state[p + 5]! + left1 * se;
      const turned1 = real1 * c + imag1 * s + come1 * ce;
      state[p + 3] = plain1;
      state[p + 4] = turned1;
      state[p + 5] = imag1 * c - real1 * s + come1 * se;
      const left2 = pairs[old + at + 2]!;
      const come2 = pairs[fresh + at + 2]!;
      const plain2 = state[p + 6]! + come2 - left2;
      const real2 = state[p + 7]! - left2 * ce;
      const imag2 = state[p + 8]! + left2 * se;
      const turned2 = real2 * c + imag2 * s + come2 * ce;
      state[p + 6] = plain2;
      state[p + 7] = turned2;
      state[p + 8] = imag2 * c - real2 * s + come2 * se;
      const x2 = incoming[q]!;
      const z2 = incoming[q + 1]!;
      const u = 0.5 * (plain0 + turned0) - (x * z2 - x2 * z) * each;
      const v = 0.5 * (plain1 + turned1) - (x * x2 + z * z2) * each;
      const squares = own + incoming[q + 2]! - (x2 * x2 + z2 * z2) * each;
      const total = squares - (plain2 + turned2) - 2 * Math.sqrt(u * u + v * v);
      map[o + k] = total > 0 ? Math.sqrt(total * each) : 0;
    }
  }
}
