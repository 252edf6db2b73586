import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { rowAfterKey } from './rowAfterKey';

describe('rowAfterKey', () => {
  it('goes by one, by a page and to the ends', () => {
    const from = (key: string): number | null => rowAfterKey(key, 10, 30);
    expect(['ArrowDown', 'ArrowUp', 'PageDown', 'PageUp', 'Home', 'End'].map(from)).toEqual([
      11, 9, 15, 5, 0, 29,
    ]);
  });

  it('leaves other keys alone', () => {
    expect(rowAfterKey('a', 0, 3)).toBeNull();
  });

  it('never leaves the list', () => {
    const keys = fc.constantFrom('ArrowDown', 'ArrowUp', 'PageDown', 'PageUp', 'Home', 'End');
    fc.assert(
      fc.property(keys, fc.integer({ min: 1, max: 50 }), fc.nat(49), (key, count, start) => {
        const to = rowAfterKey(key, Math.min(start, count - 1), count)!;
        expect(to).toBeGreaterThanOrEqual(0);
        expect(to).toBeLessThan(count);
      }),
    );
  });
});
