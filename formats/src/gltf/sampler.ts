import type { Accessor, AnimationSampler } from '@gltf-transform/core';
import { quatNormalize, quatSlerp } from '@warper/core/kernels';

/** A channel's keys, unpacked. */
export interface Keys {
  readonly times: Float64Array;
  /** keys x size, or keys x 3 x size (in-tangent, value, out-tangent) for CUBICSPLINE. */
  readonly values: Float64Array;
  readonly size: 3 | 4;
  readonly mode: 'STEP' | 'LINEAR' | 'CUBICSPLINE';
}

/**
 * Unpacks a sampler; integer outputs are normalised as glTF 2.0.1, section 3.11 says. Null where it is unusable.
 *
 * @param known times that have been unpacked: samplers mostly share them
 */
export function readKeys(
  sampler: AnimationSampler,
  size: 3 | 4,
  known = new Map<Accessor, Float64Array>(),
): Keys | null {
  const input = sampler.getInput();
  const output = sampler.getOutput();
  if (!input || !output || input.getCount() === 0) return null;
  const mode = sampler.getInterpolation();
  const times = known.get(input) ?? flatten(input, 1);
  known.set(input, times);
  const values = flatten(output, size);
  const perKey = mode === 'CUBICSPLINE' ? 3 * size : size;
  if (values.length < times.length * perKey) return null;
  return { times, values, size, mode };
}

function flatten(accessor: Accessor, size: number): Float64Array {
  const array = accessor.getArray();
  if (array instanceof Float32Array && accessor.getElementSize() === size) return Float64Array.from(array);
  const count = accessor.getCount();
  const out = new Float64Array(count * size);
  const element: number[] = [];
  for (let i = 0; i < count; i++) {
    accessor.getElement(i, element);
    for (let k = 0; k < size; k++) out[i * size + k] = element[k]!;
  }
  return out;
}

/**
 * Writes a channel's value at a time in seconds: STEP, LINEAR (slerp for rotations) and CUBICSPLINE as in glTF 2.0.1,
 * Appendix C; before the first and after the last key the end value holds.
 */
export function sampleKeys(keys: Keys, seconds: number, out: Float64Array, oo: number): Float64Array {
  const { times, values, size, mode } = keys;
  const last = times.length - 1;
  const stride = mode === 'CUBICSPLINE' ? 3 * size : size;
  const middle = mode === 'CUBICSPLINE' ? size : 0;
  const copy = (key: number): Float64Array => {
    for (let k = 0; k < size; k++) out[oo + k] = values[key * stride + middle + k]!;
    return size === 4 ? (quatNormalize(out, oo) as Float64Array) : out;
  };
  if (seconds <= times[0]!) return copy(0);
  if (seconds >= times[last]!) return copy(last);
  let low = 0;
  let high = last;
  while (high - low > 1) {
    const at = (low + high) >> 1;
    if (times[at]! <= seconds) low = at;
    else high = at;
  }
  if (mode === 'STEP') return copy(low);
  const span = times[high]! - times[low]!;
  const t = span > 0 ? (seconds - times[low]!) / span : 0;
  if (mode === 'LINEAR') {
    if (size === 4) {
      quatSlerp(values, low * 4, values, high * 4, t, out, oo);
      return quatNormalize(out, oo) as Float64Array;
    }
    for (let k = 0; k < size; k++)
      out[oo + k] = (1 - t) * values[low * size + k]! + t * values[high * size + k]!;
    return out;
  }
  cubic(keys, low, high, span, t, out, oo);
  return size === 4 ? (quatNormalize(out, oo) as Float64Array) : out;
}

function cubic(
  keys: Keys,
  low: number,
  high: number,
  span: number,
  t: number,
  out: Float64Array,
  oo: number,
): void {
  const { values, size } = keys;
  const t2 = t * t;
  const t3 = t2 * t;
  for (let k = 0; k < size; k++) {
    const v0 = values[low * 3 * size + size + k]!;
    const b0 = values[low * 3 * size + 2 * size + k]!;
    const a1 = values[high * 3 * size + k]!;
    const v1 = values[high * 3 * size + size + k]!;
    out[oo + k] =
      (2 * t3 - 3 * t2 + 1) * v0 +
      span * (t3 - 2 * t2 + t) * b0 +
      (-2 * t3 + 3 * t2) * v1 +
      span * (t3 - t2) * a1;
  }
}
