/** How a weight goes from 0 to 1. */
export type CurveName = 'smooth' | 'linear';

/**
 * The weight at u in [0, 1]: `smooth` is u^2 (3 - 2u), zero slope at both ends (Kovar, Gleicher, Pighin,
 * "Motion Graphs", SIGGRAPH 2002, section 3.2), `linear` is u. Outside the span it stays at 0 or 1.
 */
export function curveWeight(curve: CurveName, u: number): number {
  if (u <= 0) return 0;
  if (u >= 1) return 1;
  return curve === 'smooth' ? u * u * (3 - 2 * u) : u;
}
