import type { Handle, Spline } from './spline';
import { monotoneSpline, splineAt } from './spline';

/** How a weight goes from 0 to 1: by name, or through the user's own points (share of the way, weight). */
export type Curve = 'smooth' | 'linear' | readonly Handle[];

/** A curve ready to be read. */
export type WeightCurve = 'smooth' | 'linear' | Spline;

/** Prepares a curve; own points are joined without overshoot, from (0, 0) to (1, 1). */
export const prepareCurve = (curve: Curve): WeightCurve =>
  typeof curve === 'string' ? curve : monotoneSpline([[0, 0], ...curve, [1, 1]]);

/**
 * The weight at u in [0, 1]: `smooth` is u^2 (3 - 2u), zero slope at both ends (Kovar, Gleicher, Pighin,
 * "Motion Graphs", SIGGRAPH 2002, section 3.2), `linear` is u. Outside the span it stays at 0 or 1.
 */
export function curveWeight(curve: WeightCurve, u: number): number {
  if (u <= 0) return 0;
  if (u >= 1) return 1;
  if (curve === 'smooth') return u * u * (3 - 2 * u);
  return curve === 'linear' ? u : splineAt(curve, u);
}

/**
 * The weight at a frame between points in order of their frames: straight or smoothly from one to the next, held outside, 1 without points.
 */
export function weightThrough(
  frames: Float64Array,
  weights: Float64Array,
  curve: 'smooth' | 'linear',
  frame: number,
): number {
  const last = frames.length - 1;
  if (last < 0) return 1;
  if (frame <= frames[0]!) return weights[0]!;
  if (frame >= frames[last]!) return weights[last]!;
  let i = 0;
  while (frames[i + 1]! <= frame) i++;
  const t = (frame - frames[i]!) / (frames[i + 1]! - frames[i]!);
  return weights[i]! + curveWeight(curve, t) * (weights[i + 1]! - weights[i]!);
}

/** Minimum jerk from 0 to 1 (Flash and Hogan, "The coordination of arm movements", J. Neuroscience 5, 1985). */
export function minimumJerk(u: number): number {
  if (u <= 0) return 0;
  if (u >= 1) return 1;
  return u * u * u * (10 - 15 * u + 6 * u * u);
}

/** A bump from 0 to 1 and back whose speed and acceleration are zero at both ends. */
export function bump(u: number): number {
  if (u <= 0 || u >= 1) return 0;
  const v = 4 * u * (1 - u);
  return v * v * v;
}
