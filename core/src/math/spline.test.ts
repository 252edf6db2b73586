import { describe, expect, it } from '@jest/globals';
import { curveMonotoneX, line } from 'd3-shape';
import fc from 'fast-check';
import { curveWeight, prepareCurve } from './curve';
import type { Handle } from './spline';
import { monotoneSpline, splineAt, splineSlope } from './spline';

/** Handles with growing places and values that never fall. */
const rising = fc
  .array(fc.tuple(fc.integer({ min: 1, max: 50 }), fc.integer({ min: 0, max: 50 })), {
    minLength: 2,
    maxLength: 8,
  })
  .map((steps) => {
    let [x, y] = [0, 0];
    return steps.map(([dx, dy]): Handle => [(x += dx), (y += dy)]);
  });

describe('monotone splines', () => {
  it('are the Bezier pieces that d3-shape draws for curveMonotoneX (Steffen 1990)', () => {
    const points: Handle[] = [
      [0, 0],
      [1, 0.2],
      [2.5, 3],
      [4, 3],
      [4.5, 5],
    ];
    const path = line().curve(curveMonotoneX).digits(12)(points as [number, number][])!;
    const pieces = path.split('C').slice(1);
    const spline = monotoneSpline(points);
    pieces.forEach((piece, i) => {
      const [x1, y1, x2, y2, x3, y3] = piece.split(/[, ]/).map(Number) as [
        number,
        number,
        number,
        number,
        number,
        number,
      ];
      const [x0, y0] = points[i]!;
      for (const t of [0.1, 0.35, 0.5, 0.8]) {
        const mix = (a: number, b: number, c: number, d: number): number =>
          a * (1 - t) ** 3 + 3 * b * t * (1 - t) ** 2 + 3 * c * t * t * (1 - t) + d * t ** 3;
        expect(splineAt(spline, mix(x0, x1, x2, x3))).toBeCloseTo(mix(y0, y1, y2, y3), 9);
      }
    });
  });

  it('pass through their handles and never fall where the handles do not', () => {
    fc.assert(
      fc.property(rising, (points) => {
        const spline = monotoneSpline(points);
        for (const [x, y] of points) expect(splineAt(spline, x)).toBeCloseTo(y, 9);
        const [from, to] = [points[0]![0], points.at(-1)![0]];
        let before = -Infinity;
        for (let i = 0; i <= 200; i++) {
          const value = splineAt(spline, from + ((to - from) * i) / 200);
          expect(value).toBeGreaterThanOrEqual(before - 1e-9);
          before = value;
        }
      }),
    );
  });

  it('give the slope that differences tend to', () => {
    const spline = monotoneSpline([
      [0, 0],
      [1, 0.2],
      [3, 2],
    ]);
    for (const x of [-1, 0.3, 1.7, 2.9, 4])
      expect(splineSlope(spline, x)).toBeCloseTo(
        (splineAt(spline, x + 1e-6) - splineAt(spline, x - 1e-6)) / 2e-6,
        5,
      );
  });

  it('weigh a crossfade through own points', () => {
    const curve = prepareCurve([[0.5, 0.2]]);
    expect([0, 0.5, 1, 2].map((u) => curveWeight(curve, u))).toEqual([0, 0.2, 1, 1]);
  });
});
