/** Numbers kept for a pair of frames: sums over the joints of x z' - x' z, x x' + z z' and y y'. */
export const PAIR_SUMS = 3;

/** Two motions of the same joints: frames x joints x 3 places in metres. */
export interface Motions {
  readonly outgoing: Float64Array;
  readonly incoming: Float64Array;
  readonly incomingFrames: number;
  readonly joints: number;
}

/**
 * Writes the sums of outgoing frames f and f + 1 with every incoming frame, incoming frames x 3 from offsets `o` and
 * `next`. Two by two frames at a time: each place is read once for two pairs, which halves what this costs.
 */
export function pairRows(
  { outgoing, incoming, incomingFrames, joints }: Motions,
  f: number,
  out: Float64Array,
  o: number,
  next: number,
): void {
  const row = joints * 3;
  const first = f * row;
  const even = incomingFrames - (incomingFrames & 1);
  for (let g = 0; g < even; g += 2) {
    let c00 = 0;
    let d00 = 0;
    let u00 = 0;
    let c01 = 0;
    let d01 = 0;
    let u01 = 0;
    let c10 = 0;
    let d10 = 0;
    let u10 = 0;
    let c11 = 0;
    let d11 = 0;
    let u11 = 0;
    let p1 = first + row;
    let q0 = g * row;
    let q1 = q0 + row;
    for (let p0 = first; p0 < first + row; p0 += 3) {
      const x0 = outgoing[p0]!;
      const y0 = outgoing[p0 + 1]!;
      const z0 = outgoing[p0 + 2]!;
      const x1 = outgoing[p1]!;
      const y1 = outgoing[p1 + 1]!;
      const z1 = outgoing[p1 + 2]!;
      const a0 = incoming[q0]!;
      const b0 = incoming[q0 + 1]!;
      const e0 = incoming[q0 + 2]!;
      const a1 = incoming[q1]!;
      const b1 = incoming[q1 + 1]!;
      const e1 = incoming[q1 + 2]!;
      c00 += x0 * e0 - a0 * z0;
      d00 += x0 * a0 + z0 * e0;
      u00 += y0 * b0;
      c01 += x0 * e1 - a1 * z0;
      d01 += x0 * a1 + z0 * e1;
      u01 += y0 * b1;
      c10 += x1 * e0 - a0 * z1;
      d10 += x1 * a0 + z1 * e0;
      u10 += y1 * b0;
      c11 += x1 * e1 - a1 * z1;
      d11 += x1 * a1 + z1 * e1;
      u11 += y1 * b1;
      p1 += 3;
      q0 += 3;
      q1 += 3;
    }
    const r = o + g * PAIR_SUMS;
    out[r] = c00;
    out[r + 1] = d00;
    out[r + 2] = u00;
    out[r + 3] = c01;
    out[r + 4] = d01;
    out[r + 5] = u01;
    const s = next + g * PAIR_SUMS;
    out[s] = c10;
    out[s + 1] = d10;
    out[s + 2] = u10;
    out[s + 3] = c11;
    out[s + 4] = d11;
    out[s + 5] = u11;
  }
  if (even === incomingFrames) return;
  onePair(outgoing, first, incoming, even * row, row, out, o + even * PAIR_SUMS);
  onePair(outgoing, first + row, incoming, even * row, row, out, next + even * PAIR_SUMS);
}

/** Writes the sums of one outgoing frame with every incoming frame. */
export function pairRow(motions: Motions, f: number, out: Float64Array, o: number): void {
  const row = motions.joints * 3;
  for (let g = 0; g < motions.incomingFrames; g++)
    onePair(motions.outgoing, f * row, motions.incoming, g * row, row, out, o + g * PAIR_SUMS);
}

function onePair(
  a: Float64Array,
  p: number,
  b: Float64Array,
  q: number,
  row: number,
  out: Float64Array,
  o: number,
): void {
  let cross = 0;
  let dot = 0;
  let up = 0;
  for (let i = 0; i < row; i += 3) {
    const x = a[p + i]!;
    const z = a[p + i + 2]!;
    const x2 = b[q + i]!;
    const z2 = b[q + i + 2]!;
    cross += x * z2 - x2 * z;
    dot += x * x2 + z * z2;
    up += a[p + i + 1]! * b[q + i + 1]!;
  }
  out[o] = cross;
  out[o + 1] = dot;
  out[o + 2] = up;
}
