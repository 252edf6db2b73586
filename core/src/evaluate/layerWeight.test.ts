import { describe, expect, it } from '@jest/globals';
import type { LayerPlan } from '../plan/plan';
import type { LayerSpan } from '../scene/lane';
import { layerWeight } from './layerWeight';

const weightOf = (
  frame: number,
  span: LayerSpan | null,
  points: readonly (readonly [number, number])[] = [],
  smooth = false,
): number =>
  layerWeight(
    {
      weightFrames: Float64Array.from(points, (p) => p[0]),
      weights: Float64Array.from(points, (p) => p[1]),
      smooth,
      span,
    } as LayerPlan,
    frame,
  );

describe('the weight of a layer', () => {
  it('is full without points or span, and goes from point to point, straight or smoothly', () => {
    expect(weightOf(7, null)).toBe(1);
    const points = [
      [10, 0],
      [20, 1],
      [30, 0.5],
    ] as const;
    expect([0, 10, 12.5, 20, 25, 99].map((f) => weightOf(f, null, points))).toEqual([
      0, 0, 0.25, 1, 0.75, 0.5,
    ]);
    // 3 t^2 - 2 t^3 at a quarter.
    expect(weightOf(12.5, null, points, true)).toBeCloseTo(0.15625, 9);
    expect(weightOf(15, null, points, true)).toBeCloseTo(0.5, 9);
  });

  it('is nothing outside its span, whether it fades or not', () => {
    const at = (frame: number, fadeIn: number, fadeOut: number, end: number | null = 30): number =>
      weightOf(frame, { start: 10, end, fadeIn, fadeOut });
    expect([9, 9.5, 10, 29, 29.5, 30, 31].map((f) => at(f, 0, 0))).toEqual([0, 0, 1, 1, 1, 0, 0]);
    expect([8, 9, 30, 40].map((f) => at(f, 4, 4))).toEqual([0, 0, 0, 0]);
    expect([14, 20, 25].map((f) => at(f, 4, 4))).toEqual([1, 1, 1]);
    for (const f of [10, 12.25, 13]) {
      expect(at(f, 4, 4)).toBeGreaterThan(0);
      expect(at(f, 4, 4)).toBeLessThan(1);
      expect(at(f, 4, 4)).toBeCloseTo(at(39 - f, 4, 4), 9);
    }
    expect(at(1e6, 4, 4, null)).toBe(1);
  });
});
