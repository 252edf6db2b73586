/** Numbers kept for a pair of frames: sums over the joints of x z' - x' z, x x' + z z' and y y'. */
export const PAIR_SUMS = 3;

/**
 * Two motions of the same joints, frames x 3 x joints in metres: of each frame all x, then all z, then all y, so that what is
 * summed together is read in a row.
 */
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
    let c01 = 0;
    let d01 = 0;
    let c10 = 0;
    let d10 = 0;
    let c11 = 0;
    let d11 = 0;
    let q = g * row;
    let p = first;
    for (const end = first + joints; p < end; p++, q++) {
      const x0 = outgoing[p]!;
      const z0 = outgoing[p + joints]!;
      const x1 = outgoing[p + row]!;
      const z1 = outgoing[p + row + joints]!;
      const a0 = incoming[q]!;
      const e0 = incoming[q + joints]!;
      const a1 = incoming[q + row]!;
      const e1 = incoming[q + row + joints]!;
      c00 += x0 * e0 - a0 * z0;
      d00 += x0 * a0 + z0 * e0;
      c01 += x0 * e1 - a1 * z0;
      d01 += x0 * a1 + z0 * e1;
      c10 += x1 * e0 - a0 * z1;
      d10 += x1 * a0 + z1 * e0;
      c11 += x1 * e1 - a1 * z1;
      d11 += x1 * a1 + z1 * e1;
    }
    let u00 = 0;
    let u01 = 0;
    let u10 = 0;
    let u11 = 0;
    p += joints;
    q += joints;
    for (const end = p + joints; p < end; p++, q++) {
      const y0 = outgoing[p]!;
      const y1 = outgoing[p + row]!;
      const b0 = incoming[q]!;
      const b1 = incoming[q + row]!;
      u00 += y0 * b0;
      u01 += y0 * b1;
      u10 += y1 * b0;
      u11 += y1 * b1;
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
  onePair(outgoing, first, incoming, even * row, joints, out, o + even * PAIR_SUMS);
  onePair(outgoing, first + row, incoming, even * row, joints, out, next + even * PAIR_SUMS);
}

/** Writes the sums of one outgoing frame with every incoming frame. */
export function pairRow(motions: Motions, f: number, out: Float64Array, o: number): void {
  const row = motions.joints * 3;
  for (let g = 0; g < motions.incomingFrames; g++)
    onePair(motions.outgoing, f * row, motions.incoming, g * row, motions.joints, out, o + g * PAIR_SUMS);
}

function onePair(
  a: Float64Array,
  p: number,
  b: Float64Array,
  q: number,
  joints: number,
  out: Float64Array,
  o: number,
): void {
  let cross = 0;
  let dot = 0;
  let up = 0;
  for (let j = 0; j < joints; j++) {
    const x = a[p + j]!;
    const z = a[p + joints + j]!;
    const x2 = b[q + j]!;
    const z2 = b[q + joints + j]!;
    cross += x * z2 - x2 * z;
    dot += x * x2 + z * z2;
    up += a[p + 2 * joints + j]! * b[q + 2 * joints + j]!;
  }
  out[o] = cross;
  out[o + 1] = dot;
  out[o + 2] = up;
}
