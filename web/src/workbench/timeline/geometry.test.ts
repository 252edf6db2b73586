import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { snap, tickSteps } from './geometry';

describe('the ruler', () => {
  it('has labels at least 72 pixels apart and fine ticks that divide them, at any zoom', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.15, max: 24, noNaN: true }),
        fc.constantFrom(24, 25, 30, 29.97, 60),
        (ppf, fps) => {
          const { label, fine } = tickSteps(ppf, fps);
          expect(label * ppf).toBeGreaterThanOrEqual(72);
          expect(label % fine).toBe(0);
          expect(fine).toBeGreaterThanOrEqual(1);
        },
      ),
    );
  });
});

describe('snapping', () => {
  it('takes the nearest target within seven pixels, else the frame', () => {
    expect(snap(98, [0, 100, 105], 2)).toBe(100);
    expect(snap(90, [0, 100], 2)).toBe(90);
    expect(snap(103, [100, 105], 2)).toBe(105);
  });
});
