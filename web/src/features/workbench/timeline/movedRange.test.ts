import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { movedRange } from './movedRange';

describe('the play range, dragged at an end', () => {
  it('begins as the whole scene, and is none when it is the whole again', () => {
    expect(movedRange(null, 'from', 30, 400)).toEqual({ from: 30, to: 400 });
    expect(movedRange({ from: 30, to: 400 }, 'from', -12, 400)).toBeNull();
    expect(movedRange({ from: 0, to: 90 }, 'to', 400, 400)).toBeNull();
  });

  it('is at least a frame long, and leaves its other end alone', () => {
    const frame = fc.integer({ min: -50, max: 600 });
    fc.assert(
      fc.property(
        fc.nat(300),
        fc.integer({ min: 1, max: 300 }),
        frame,
        fc.nat(500),
        (from, length, to, end) => {
          const range = { from, to: from + length };
          const start = movedRange(range, 'from', to, end) ?? { from: 0, to: end };
          const stop = movedRange(range, 'to', to, end) ?? { from: 0, to: end };
          expect(start.from).toBeGreaterThanOrEqual(0);
          expect(start.from).toBeLessThan(start.to);
          expect(start.to).toBe(range.to);
          expect(stop.from).toBe(range.from);
          expect(stop.to).toBe(Math.max(from + 1, to));
        },
      ),
    );
  });
});
