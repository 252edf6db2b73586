/** An axis with round ends over all values. */
export function axisOf(values: readonly number[], least: number): [number, number] {
  if (values.length === 0) return [0, least];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const spare = Math.max(0, least - (high - low)) / 2;
  const unit = 10 ** Math.floor(Math.log10(Math.max(least, high - low))) / 2;
  return [Math.floor((low - spare) / unit) * unit, Math.ceil((high + spare) / unit) * unit];
}
