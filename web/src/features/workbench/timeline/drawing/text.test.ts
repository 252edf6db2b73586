import { describe, expect, it } from '@jest/globals';
import * as fc from 'fast-check';
import type { Measuring } from './text';
import { NAME, fitted, placeNames, textWidth } from './text';

/** Every letter is seven pixels wide. */
const pen: Measuring = {
  font: '',
  measureText: (text: string) => ({ width: text.length * 7 }) as TextMetrics,
};

describe('names on the timeline', () => {
  it('are cut where they have no room, with dots', () => {
    expect(fitted(pen, NAME, 'Walk start', 70)).toBe('Walk start');
    expect(fitted(pen, NAME, 'Walk start', 69)).toBe('Walk sta…');
    expect(fitted(pen, NAME, 'Walk start', 45)).toBe('Walk…');
    expect(fitted(pen, NAME, 'Walk start', 6)).toBe('');
  });

  it('run on over narrow segments, but not over one that tells its own', () => {
    const at = (x: number, end: number, text: string) => ({ x, end, text });
    const names = placeNames(pen, [
      at(0, 8, 'Turn'),
      at(10, 18, 'Idle'),
      at(20, 28, 'Walk'),
      at(60, 200, 'Sit'),
    ]);
    expect(names).toEqual([
      { x: 0, text: 'Turn', over: true },
      { x: 60, text: 'Sit', over: false },
    ]);
  });

  it('never stand over each other, and never leave a segment that has room for them', () => {
    const widthOf = fc.integer({ min: 2, max: 120 });
    const lane = fc.array(fc.tuple(widthOf, fc.string({ minLength: 1, maxLength: 14 })), { maxLength: 30 });
    fc.assert(
      fc.property(lane, (all) => {
        let x = 0;
        const wanted = all.map(([width, text]) => ({ x, end: (x += width) - 2, text }));
        const placed = placeNames(pen, wanted);
        placed.forEach((p, i) => {
          const end = p.x + textWidth(pen, NAME, p.text);
          if (!p.over) expect(end).toBeLessThanOrEqual(wanted.find((w) => w.x === p.x)!.end);
          if (placed[i + 1]) expect(end).toBeLessThanOrEqual(placed[i + 1]!.x);
        });
        // Whoever has room of its own is told, unless a name before it runs into it.
        for (const w of wanted.filter((n) => n.end - n.x >= 26 && fitted(pen, NAME, n.text, n.end - n.x)))
          expect(
            placed.some((p) => p.x === w.x || (p.x < w.x && p.x + textWidth(pen, NAME, p.text) > w.x - 7)),
          ).toBe(true);
      }),
    );
  });
});
