/** A point that a curve passes through. */
export type Handle = readonly [x: number, y: number];

/** A monotone cubic through points: their places, values and slopes. */
export interface Spline {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly slope: Float64Array;
}

/**
 * The cubic through points of growing x that neither overshoots nor turns back between them (Steffen, "A simple method
 * for monotonic interpolation in one dimension", Astronomy and Astrophysics 239, 1990): where the values never fall, the
 * curve never falls.
 *
 * @param points at least two, x strictly growing
 */
export function monotoneSpline(points: readonly Handle[]): Spline {
  const x = Float64Array.from(points, (p) => p[0]);
  const y = Float64Array.from(points, (p) => p[1]);
  const last = points.length - 1;
  const secant = (i: number): number => (y[i + 1]! - y[i]!) / (x[i + 1]! - x[i]!);
  const slope = new Float64Array(points.length);
  for (let i = 1; i < last; i++) {
    const [a, b] = [secant(i - 1), secant(i)];
    const [h, k] = [x[i]! - x[i - 1]!, x[i + 1]! - x[i]!];
    const mean = (a * k + b * h) / (h + k);
    slope[i] = (Math.sign(a) + Math.sign(b)) * Math.min(Math.abs(a), Math.abs(b), 0.5 * Math.abs(mean)) || 0;
  }
  slope[0] = last === 1 ? secant(0) : endSlope(secant(0), slope[1]!);
  slope[last] = last === 1 ? secant(0) : endSlope(secant(last - 1), slope[last - 1]!);
  return { x, y, slope };
}

const endSlope = (secant: number, next: number): number => (3 * secant - next) / 2;

/** The value of a spline at any x; outside its points it goes on straight. */
export function splineAt({ x, y, slope }: Spline, at: number): number {
  const last = x.length - 1;
  if (at <= x[0]!) return y[0]! + (at - x[0]!) * slope[0]!;
  if (at >= x[last]!) return y[last]! + (at - x[last]!) * slope[last]!;
  let i = 0;
  while (at >= x[i + 1]!) i++;
  const h = x[i + 1]! - x[i]!;
  const t = (at - x[i]!) / h;
  const s = 1 - t;
  return (
    y[i]! * s * s * (1 + 2 * t) +
    y[i + 1]! * t * t * (3 - 2 * t) +
    h * s * t * (slope[i]! * s - slope[i + 1]! * t)
  );
}

/** The slope of a spline at any x. */
export function splineSlope({ x, y, slope }: Spline, at: number): number {
  const last = x.length - 1;
  if (at <= x[0]!) return slope[0]!;
  if (at >= x[last]!) return slope[last]!;
  let i = 0;
  while (at >= x[i + 1]!) i++;
  const h = x[i + 1]! - x[i]!;
  const t = (at - x[i]!) / h;
  const rise = (y[i + 1]! - y[i]!) / h;
  return 6 * t * (1 - t) * rise + slope[i]! * (1 - t) * (1 - 3 * t) + slope[i + 1]! * t * (3 * t - 2);
}
