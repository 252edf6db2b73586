/** Usual rates, in the order in which they are tried: the first that all keys fall on is taken. */
const RATES = [30, 24, 25, 60, 50, 48, 120, 100, 240, 30000 / 1001, 24000 / 1001, 60000 / 1001, 15, 12, 10];
/** A key may miss its frame by this much (seconds); single-precision times after ten minutes err by 3e-5. */
const KEY_ERROR_SECONDS = 1e-4;
/** The rate for keys that fall on no usual one. */
const UNEVEN_RATE = 60;

/** The rate at which keys were set, and whether they all fall on its frames. Times in seconds from the first key. */
export function findRate(times: readonly number[]): { rate: number; even: boolean } {
  for (const rate of RATES) {
    if (times.every((t) => Math.abs(t - Math.round(t * rate) / rate) <= KEY_ERROR_SECONDS))
      return { rate, even: true };
  }
  return { rate: UNEVEN_RATE, even: false };
}
