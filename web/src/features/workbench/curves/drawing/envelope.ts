/** The least and greatest of a list of numbers over stretches of 2, 4, 8 ... of them, so that any stretch is quickly summed up. */
export interface Envelope {
  /** Level k: the least and the greatest of each stretch of 2^(k+1) numbers, one after the other. */
  readonly levels: readonly Float64Array[];
  readonly values: Float64Array;
}

export function makeEnvelope(values: Float64Array): Envelope {
  const levels: Float64Array[] = [];
  let count = values.length;
  while (count > 1) {
    const below = levels.at(-1);
    const half = Math.ceil(count / 2);
    const level = new Float64Array(half * 2);
    for (let i = 0; i < half; i++) {
      const [a, b] = [i * 2, Math.min(i * 2 + 1, count - 1)];
      level[i * 2] = below ? Math.min(below[a * 2]!, below[b * 2]!) : Math.min(values[a]!, values[b]!);
      level[i * 2 + 1] = below
        ? Math.max(below[a * 2 + 1]!, below[b * 2 + 1]!)
        : Math.max(values[a]!, values[b]!);
    }
    levels.push(level);
    count = half;
  }
  return { levels, values };
}

/** Writes the least and the greatest of the numbers [from, to) into `out[0..1]`; there must be one at least. */
export function rangeOf(
  { levels, values }: Envelope,
  from: number,
  to: number,
  out: Float64Array,
): Float64Array {
  let [least, greatest] = [Infinity, -Infinity];
  let i = from;
  while (i < to) {
    // The largest stretch that begins here and ends within.
    let level = -1;
    while (level + 1 < levels.length && i % 2 ** (level + 2) === 0 && i + 2 ** (level + 2) <= to) level++;
    if (level < 0) {
      least = Math.min(least, values[i]!);
      greatest = Math.max(greatest, values[i]!);
      i++;
    } else {
      const at = (i / 2 ** (level + 1)) * 2;
      least = Math.min(least, levels[level]![at]!);
      greatest = Math.max(greatest, levels[level]![at + 1]!);
      i += 2 ** (level + 1);
    }
  }
  out[0] = least;
  out[1] = greatest;
  return out;
}
