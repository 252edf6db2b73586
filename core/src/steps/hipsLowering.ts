/** How far the hips are lowered at most for a leg to reach its step, metres. */
export const MAX_LOWERING = 0.03;

/** Seconds over which the hips go down and come up again. */
const DROP_SECONDS = 0.2;

/**
 * How far the hips come down at each frame: at least what is needed there (metres, capped), without haste. The largest
 * need around each frame, then its mean under a Hann window of the same width, which nowhere falls below the need.
 */
export function smoothLowering(needed: Float64Array, rate: number, limit = MAX_LOWERING): Float64Array {
  const reach = Math.max(1, Math.round(DROP_SECONDS * rate));
  const last = needed.length - 1;
  if (!needed.some((n) => n > 0)) return new Float64Array(needed.length);
  const capped = needed.map((n) => Math.min(Math.max(n, 0), limit));
  const most = capped.map((_, f) => {
    let top = 0;
    for (let g = Math.max(0, f - reach); g <= Math.min(last, f + reach); g++) top = Math.max(top, capped[g]!);
    return top;
  });
  return most.map((_, f) => {
    let [sum, weights] = [0, 0];
    for (let d = -reach; d <= reach; d++) {
      const w = 0.5 + 0.5 * Math.cos((Math.PI * d) / (reach + 1));
      sum += w * most[Math.min(Math.max(f + d, 0), last)]!;
      weights += w;
    }
    return sum / weights;
  });
}
