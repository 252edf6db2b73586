import { describe, expect, it } from '@jest/globals';
import { ribbon } from './ribbon';

describe('the ribbon of a floor path', () => {
  it('is as wide as asked, and leaves out standing still', () => {
    const path = Float64Array.of(0, 0, 0, 0, 0, 0.001, 0, 1, 0, 2, 0, 2);
    const position = ribbon(path, 0.2, 0.01).getAttribute('position');
    expect(position.count).toBe(6);
    for (let i = 0; i < position.count; i += 2) {
      expect(
        Math.hypot(position.getX(i) - position.getX(i + 1), position.getZ(i) - position.getZ(i + 1)),
      ).toBeCloseTo(0.2, 6);
      expect(position.getY(i)).toBeCloseTo(0.01, 6);
    }
  });

  it('is empty for nobody', () => {
    expect(ribbon(new Float64Array(0), 0.2, 0).getAttribute('position').count).toBe(0);
  });
});
