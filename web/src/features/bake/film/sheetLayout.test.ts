import { describe, expect, it } from '@jest/globals';
import { InputError } from '@warper/core';
import fc from 'fast-check';
import type { CharacterPlan } from '@warper/core';
import { byOwnNames, sheetLayout } from './sheetLayout';

const span = fc
  .record({
    name: fc.string({ maxLength: 5 }),
    from: fc.integer({ min: -50, max: 500 }),
    length: fc.integer({ min: 1, max: 60 }),
  })
  .map(({ name, from, length }) => ({ name, from, to: from + length }));

describe('a sheet of poses', () => {
  it('has every shown frame of every character and span in a rectangle of its own, within the sheet', () => {
    fc.assert(
      fc.property(
        fc.array(span, { minLength: 1, maxLength: 4 }),
        fc.integer({ min: 1, max: 7 }),
        fc.constantFrom([0], [0, 90, 180]),
        (spans, every, directions) => {
          const cell = { width: 40, height: 30 };
          const { width, height, cells } = sheetLayout(['A', 'B'], spans, every, cell, directions);
          expect(new Set(cells.map((c) => `${c.x} ${c.y}`)).size).toBe(cells.length);
          for (const { x, y, w, h } of cells) {
            expect([w, h, x % w, y % h]).toEqual([40, 30, 0, 0]);
            expect(x + w).toBeLessThanOrEqual(width);
            expect(y + h).toBeLessThanOrEqual(height);
          }
          const shown = spans.flatMap(({ from, to }) =>
            directions.flatMap((direction) =>
              Array.from({ length: to - from }, (_, i) => from + i)
                .filter((f) => (f - from) % every === 0)
                .map((frame) => [frame, direction]),
            ),
          );
          expect(cells.map((c) => [c.frame, c.direction])).toEqual([...shown, ...shown]);
          for (const c of cells)
            expect(c.name).toContain(directions.length > 1 ? `${c.direction}° ${c.frame}` : `${c.frame}`);
        },
      ),
    );
  });

  it('tells characters of one name apart', () => {
    const cast = ['Twin', 'Twin', 'Dog'].map((name) => ({ character: { name } }) as CharacterPlan);
    expect([...byOwnNames(cast)]).toEqual([
      ['Twin', cast[0]],
      ['Twin 2', cast[1]],
      ['Dog', cast[2]],
    ]);
  });

  it('is refused where it is larger than a picture can be', () => {
    const spans = [{ name: '', from: 0, to: 1000 }];
    expect(() => sheetLayout(['A'], spans, 1, { width: 100, height: 100 })).toThrow(InputError);
    expect(sheetLayout(['A'], spans, 10, { width: 100, height: 100 }).width).toBe(10_000);
  });
});
