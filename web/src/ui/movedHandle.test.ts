import { describe, expect, it } from '@jest/globals';
import type { Handle } from '@warper/core';
import { curveWeight, prepareCurve } from '@warper/core/kernels';
import fc from 'fast-check';
import { movedHandle } from './movedHandle';

describe('a point of a curve', () => {
  it('goes where it is moved to, as far as its neighbours let it', () => {
    const points: Handle[] = [
      [0.2, 0.1],
      [0.5, 0.4],
      [0.8, 0.9],
    ];
    expect(movedHandle(points, 1, [0.6, 0.7])).toEqual([0.6, 0.7]);
    expect(movedHandle(points, 1, [0.9, 0])).toEqual([0.79, 0.1]);
    expect(movedHandle(points, 0, [-1, -1])).toEqual([0.01, 0]);
    expect(movedHandle(points, 2, [2, 2])).toEqual([0.99, 1]);
  });

  it('leaves the curve rising, wherever any of them is moved', () => {
    const place = fc.double({ min: -0.5, max: 1.5, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(2), place, place), { maxLength: 20 }), (moves) => {
        let points: Handle[] = [
          [0.25, 0.25],
          [0.5, 0.5],
          [0.75, 0.75],
        ];
        for (const [i, x, y] of moves)
          points = points.map((p, k) => (k === i ? movedHandle(points, i, [x, y]) : p));
        const curve = prepareCurve(points);
        for (let u = 0.01; u <= 1; u += 0.01)
          expect(curveWeight(curve, u)).toBeGreaterThanOrEqual(curveWeight(curve, u - 0.01) - 1e-9);
      }),
    );
  });
});
