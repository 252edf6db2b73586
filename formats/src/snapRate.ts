/** Relative error of a written frame time (few digits) up to which it means the nearest usual rate. */
const WRITTEN_ERROR = 5e-4;

/** The usual rate that a measured one stands for: a whole number, or 24000/1001 and its kin; else itself. */
export function snapRate(measured: number): number {
  const candidates = [Math.round(measured), ...[24, 30, 48, 60, 120].map((whole) => (whole * 1000) / 1001)];
  const best = candidates
    .filter((c) => c > 0)
    .reduce((a, b) => (Math.abs(b - measured) < Math.abs(a - measured) ? b : a), Infinity);
  return Math.abs(best - measured) <= WRITTEN_ERROR * measured ? best : measured;
}
