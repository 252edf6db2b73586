/** The axis of a file that points up. Warper's own is +Y; with +Z up what looks to +Z here looks to -Y there. */
export type UpAxis = 'y' | 'z';

/** Turns a vector, or the vector part of a quaternion, from +Y up to +Z up, in place: a quarter of a turn about +X. */
export function turnUp(axis: UpAxis, values: Float64Array | number[], at = 0): void {
  if (axis === 'y') return;
  const y = values[at + 1]!;
  values[at + 1] = -values[at + 2]!;
  values[at + 2] = y;
}
