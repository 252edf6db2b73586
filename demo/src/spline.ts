/** A key: time in seconds and value. */
export type Key = readonly [time: number, value: number];

/**
 * The natural cubic spline through keys (twice continuously differentiable; de Boor, *A Practical Guide to Splines*);
 * before the first and after the last key it goes on straight.
 */
export function spline(keys: readonly Key[]): (t: number) => number {
  const n = keys.length;
  const first = keys[0]!;
  if (n === 1) return () => first[1];
  const x = keys.map((k) => k[0]);
  const y = keys.map((k) => k[1]);
  const m = secondDerivatives(x, y);
  const slope = (i: number, at: 0 | 1): number => {
    const h = x[i + 1]! - x[i]!;
    const chord = (y[i + 1]! - y[i]!) / h;
    return at === 0 ? chord - (h / 6) * (2 * m[i]! + m[i + 1]!) : chord + (h / 6) * (m[i]! + 2 * m[i + 1]!);
  };
  return (t) => {
    if (t <= x[0]!) return y[0]! + slope(0, 0) * (t - x[0]!);
    if (t >= x[n - 1]!) return y[n - 1]! + slope(n - 2, 1) * (t - x[n - 1]!);
    let i = 0;
    while (i < n - 2 && t > x[i + 1]!) i++;
    const h = x[i + 1]! - x[i]!;
    const a = (x[i + 1]! - t) / h;
    const b = 1 - a;
    return a * y[i]! + b * y[i + 1]! + (((a ** 3 - a) * m[i]! + (b ** 3 - b) * m[i + 1]!) * h * h) / 6;
  };
}

function secondDerivatives(x: readonly number[], y: readonly number[]): number[] {
  const n = x.length;
  const m = new Array<number>(n).fill(0);
  const u = new Array<number>(n).fill(0);
  for (let i = 1; i < n - 1; i++) {
    const sigma = (x[i]! - x[i - 1]!) / (x[i + 1]! - x[i - 1]!);
    const p = sigma * m[i - 1]! + 2;
    m[i] = (sigma - 1) / p;
    const d = (y[i + 1]! - y[i]!) / (x[i + 1]! - x[i]!) - (y[i]! - y[i - 1]!) / (x[i]! - x[i - 1]!);
    u[i] = ((6 * d) / (x[i + 1]! - x[i - 1]!) - sigma * u[i - 1]!) / p;
  }
  for (let i = n - 2; i >= 1; i--) m[i] = m[i]! * m[i + 1]! + u[i]!;
  m[0] = m[n - 1] = 0;
  return m;
}

/** From 0 to 1 over [a, b] with zero speed and acceleration at both ends (quintic). */
export function ease(t: number, a: number, b: number): number {
  const u = Math.min(1, Math.max(0, (t - a) / (b - a)));
  return u * u * u * (10 - 15 * u + 6 * u * u);
}

/** The quintic from p0 with speed v0 to p1 with speed v1 over `span` seconds, acceleration zero at both ends. */
export function quintic(p0: number, v0: number, p1: number, v1: number, span: number, u: number): number {
  const d = p1 - p0;
  const a = v0 * span;
  const b = v1 * span;
  const c3 = 10 * d - 6 * a - 4 * b;
  const c4 = -15 * d + 8 * a + 7 * b;
  const c5 = 6 * d - 3 * a - 3 * b;
  return p0 + u * (a + u * u * (c3 + u * (c4 + u * c5)));
}
