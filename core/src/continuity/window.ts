/** Joint places and root of consecutive frames. */
export interface Window {
  /** frames x joints x 3, metres; NaN where a source has no samples. */
  readonly places: Float64Array;
  /** frames x 3: x, z, heading. */
  readonly roots: Float64Array;
}
