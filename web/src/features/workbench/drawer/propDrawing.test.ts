import { describe, expect, it } from '@jest/globals';
import { PROPS } from '@warper/formats';
import { propDrawing } from './propDrawing';

describe('the drawing of a prop', () => {
  it.each(Object.keys(PROPS) as (keyof typeof PROPS)[])('of a %s fills its square, and no more', (shape) => {
    const parts = propDrawing(shape, 50);
    const numbers = parts.flatMap(({ path }) => [...path.matchAll(/-?[\d.]+/g)].map(Number));
    expect(Math.min(...numbers)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...numbers)).toBeLessThanOrEqual(50);
    const spans = [0, 1].map((k) => {
      const own = numbers.filter((_, i) => i % 2 === k);
      return Math.max(...own) - Math.min(...own);
    });
    expect(Math.max(...spans)).toBeCloseTo(46, 0);
  });

  it('shows the three faces of a box that are towards us', () => {
    expect(propDrawing('box', 50)).toHaveLength(3);
  });
});
