import { describe, expect, it } from '@jest/globals';
import { movedPoint, movedSpan, weightTop } from './layerShape';

describe('what is drawn of a layer', () => {
  it('has a span whose ends never pass each other', () => {
    const span = { start: 10, end: 30, fadeIn: 2, fadeOut: 3 };
    expect(movedSpan(span, 'start', 5)).toEqual({ ...span, start: 15 });
    expect(movedSpan(span, 'start', 90).start).toBe(29);
    expect(movedSpan(span, 'end', -90).end).toBe(11);
    expect(movedSpan({ ...span, end: null }, 'start', 90).start).toBe(100);
    expect(movedSpan({ ...span, end: null }, 'end', 5).end).toBeNull();
  });

  it('has weights that are moved up and down between none and full, and not past their neighbours', () => {
    const points = [
      [0, 0],
      [10, 0.5],
      [20, 1],
    ] as const;
    expect(movedPoint(points, 1, 4, 0)).toEqual([points[0], [14, 0.5], points[2]]);
    expect(movedPoint(points, 1, 99, -999)[1]).toEqual([19, 1]);
    expect(movedPoint(points, 1, -99, 999)[1]).toEqual([1, 0]);
    const half = (weightTop(0) - weightTop(1)) / 2;
    expect(movedPoint(points, 0, 0, -half)[0]).toEqual([0, 0.5]);
  });
});
