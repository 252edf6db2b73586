/** Widths of the Gaussian beyond which its weight is below float noise for our purposes. */
const REACH = 4;

/**
 * Zero-phase Gaussian smoothing of evenly spaced values. The ends are reflected oddly (about the end value),
 * so that a straight ramp passes unchanged.
 *
 * @param sigmaSamples width in samples; 0 copies
 */
export function smoothGaussian(values: Float64Array, sigmaSamples: number): Float64Array {
  const last = values.length - 1;
  if (!(sigmaSamples > 0) || last < 1) return values.slice();
  const reach = Math.ceil(sigmaSamples * REACH);
  const padded = new Float64Array(values.length + 2 * reach);
  for (let i = 0; i < padded.length; i++) padded[i] = oddAt(values, i - reach);
  const weights = new Float64Array(reach + 1);
  let sum = 0;
  for (let i = 0; i <= reach; i++) {
    weights[i] = Math.exp(-0.5 * (i / sigmaSamples) ** 2);
    sum += i === 0 ? weights[i]! : 2 * weights[i]!;
  }
  const out = new Float64Array(values.length);
  for (let i = 0; i <= last; i++) {
    const at = i + reach;
    let total = weights[0]! * padded[at]!;
    for (let j = 1; j <= reach; j++) total += weights[j]! * (padded[at - j]! + padded[at + j]!);
    out[i] = total / sum;
  }
  return out;
}

/** The value at any index, reflected oddly about both ends as often as needed. */
function oddAt(values: Float64Array, index: number): number {
  const last = values.length - 1;
  if (index < 0) return 2 * values[0]! - oddAt(values, -index);
  if (index > last) return 2 * values[last]! - oddAt(values, 2 * last - index);
  return values[index]!;
}

/** Adds whole turns so that neighbours differ by less than half a turn, in place. */
export function unwrapAngles(radians: Float64Array): Float64Array {
  for (let i = 1; i < radians.length; i++) {
    const step = radians[i]! - radians[i - 1]!;
    radians[i] = radians[i - 1]! + step - 2 * Math.PI * Math.round(step / (2 * Math.PI));
  }
  return radians;
}
