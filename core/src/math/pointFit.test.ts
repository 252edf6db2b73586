import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { shortestTurn } from './floorMove';
import { cloudDistance, fitPoints } from './pointFit';
import { evenly } from '../testing/evenly';

const coordinate = evenly(-2, 2);
const cloud = fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 3, maxLength: 30 });

/** The formula as printed: Kovar, Gleicher, Pighin, "Motion Graphs", SIGGRAPH 2002, section 3.1. */
function asPrinted(
  p: Float64Array,
  q: Float64Array,
  w: Float64Array,
): { x: number; z: number; turn: number } {
  const sum = (f: (i: number) => number): number => w.reduce((s, weight, i) => s + weight * f(i), 0);
  const [x, z] = [(i: number) => p[i * 3]!, (i: number) => p[i * 3 + 2]!];
  const [x2, z2] = [(i: number) => q[i * 3]!, (i: number) => q[i * 3 + 2]!];
  const W = sum(() => 1);
  const [X, Z, X2, Z2] = [sum(x), sum(z), sum(x2), sum(z2)];
  const turn = Math.atan2(
    sum((i) => x(i) * z2(i) - x2(i) * z(i)) - (X * Z2 - X2 * Z) / W,
    sum((i) => x(i) * x2(i) + z(i) * z2(i)) - (X * X2 + Z * Z2) / W,
  );
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return { x: (X - X2 * c - Z2 * s) / W, z: (Z + X2 * s - Z2 * c) / W, turn };
}

describe('fitting two clouds of points on the floor', () => {
  it('finds a known move again to 1e-9', () => {
    fc.assert(
      fc.property(cloud, coordinate, coordinate, evenly(-3.1, 3.1), (points, x, z, turn) => {
        const spread = Math.max(...points.map((p) => Math.hypot(p[0] - points[0]![0], p[2] - points[0]![2])));
        fc.pre(spread > 0.05);
        const incoming = Float64Array.from(points.flat());
        const outgoing = new Float64Array(incoming.length);
        points.forEach((p, i) => {
          outgoing[i * 3] = x + p[0] * Math.cos(turn) + p[2] * Math.sin(turn);
          outgoing[i * 3 + 1] = p[1];
          outgoing[i * 3 + 2] = z - p[0] * Math.sin(turn) + p[2] * Math.cos(turn);
        });
        const weights = new Float64Array(points.length).map((_, i) => 0.5 + (i % 3));
        const fit = fitPoints(outgoing, incoming, weights)!;
        expect(Math.abs(fit.x - x)).toBeLessThan(1e-9);
        expect(Math.abs(fit.z - z)).toBeLessThan(1e-9);
        expect(Math.abs(shortestTurn(fit.turn - turn))).toBeLessThan(1e-9);
        expect(cloudDistance(outgoing, incoming, weights, fit)).toBeLessThan(1e-9);
      }),
    );
  });

  it('is the printed formula, and no other move comes nearer', () => {
    fc.assert(
      fc.property(cloud, cloud, coordinate, coordinate, coordinate, (a, b, dx, dz, turn) => {
        const n = Math.min(a.length, b.length);
        const p = Float64Array.from(a.slice(0, n).flat());
        const q = Float64Array.from(b.slice(0, n).flat());
        const w = new Float64Array(n).fill(1);
        const fit = fitPoints(p, q, w);
        fc.pre(fit !== null);
        const printed = asPrinted(p, q, w);
        const best = cloudDistance(p, q, w, fit);
        expect(best).toBeCloseTo(cloudDistance(p, q, w, printed), 6);
        expect(best).toBeLessThanOrEqual(
          cloudDistance(p, q, w, { x: fit.x + dx, z: fit.z + dz, turn: fit.turn + turn }) + 1e-9,
        );
      }),
    );
  });

  it('has no answer for one point, unless the direction is kept', () => {
    const p = Float64Array.of(1, 0, 2);
    const q = Float64Array.of(0, 0, 0);
    expect(fitPoints(p, q, Float64Array.of(1))).toBeNull();
    expect(fitPoints(p, q, Float64Array.of(1), true)).toEqual({ x: 1, z: 2, turn: 0 });
    expect(fitPoints(p, q, Float64Array.of(0))).toBeNull();
  });
});
