/** Lags below this many frames cannot be told from none, and would be divided by. */
const NO_LAG = 1e-6;

/**
 * What comes behind a row of values: a critically damped spring that is drawn to them, x'' = w^2 (target - x) - 2 w x', solved exactly for
 * values that go straight from frame to frame. It stays behind a steady motion by 2 / w, which is the lag. It starts at rest at the first.
 *
 * @param values frames x width
 * @param lagFrames frames by which it comes behind in steady motion; 0 copies
 * @returns frames x width
 */
export function lagging(values: Float64Array, width: number, lagFrames: number): Float64Array {
  const out = values.slice();
  if (!(lagFrames > NO_LAG)) return out;
  const w = 2 / lagFrames;
  const decay = Math.exp(-w);
  for (let k = 0; k < width; k++) {
    let speed = 0;
    for (let i = k + width; i < values.length; i += width) {
      const slope = values[i]! - values[i - width]!;
      // x = target - slope lag + (a + b t) e^(-w t)
      const a = out[i - width]! - values[i - width]! + slope * lagFrames;
      const b = speed - slope + w * a;
      out[i] = values[i]! - slope * lagFrames + (a + b) * decay;
      speed = slope + (b - w * (a + b)) * decay;
    }
  }
  return out;
}
