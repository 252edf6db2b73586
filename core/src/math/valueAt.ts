/** The value of a row of numbers at a real index, straight between neighbours; the ends are held. */
export function valueAt(values: Float64Array, index: number): number {
  const last = values.length - 1;
  const f = Math.min(Math.max(index, 0), last);
  const a = Math.floor(f);
  return values[a]! + (f - a) * (values[Math.min(a + 1, last)]! - values[a]!);
}
