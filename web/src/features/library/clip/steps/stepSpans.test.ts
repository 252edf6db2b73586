import { describe, expect, it } from '@jest/globals';
import type { Span } from '@warper/core';
import fc from 'fast-check';
import { addStep, moveEnd, removeStep } from './stepSpans';

const FRAMES = 60;
const clip = { frames: FRAMES, rate: 30 };

/** Whether spans are in order, apart, not empty, and within the clip. */
const sound = (spans: readonly Span[]): boolean =>
  spans.every(
    (s, i) => s.start >= 0 && s.end > s.start && s.end <= FRAMES && (i === 0 || s.start > spans[i - 1]!.end),
  );

const change = fc.record({
  kind: fc.constantFrom('start', 'end', 'add', 'remove'),
  index: fc.nat(9),
  at: fc.integer({ min: -20, max: 90 }),
});

describe('steps edited by hand', () => {
  it('stay in order, apart and within the clip, whatever is done', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 40 }), (changes) => {
        let spans: readonly Span[] = [
          { start: 2, end: 18 },
          { start: 30, end: 44 },
        ];
        for (const { kind, index, at } of changes) {
          const i = spans.length === 0 ? -1 : index % spans.length;
          if (kind === 'add') spans = addStep(spans, at, clip) ?? spans;
          else if (i < 0) continue;
          else if (kind === 'remove') spans = removeStep(spans, i);
          else spans = moveEnd(spans, i, kind === 'start' ? 'start' : 'end', at, FRAMES);
          expect(sound(spans)).toBe(true);
        }
      }),
    );
  });

  it('begin where they are asked to, and end where there is no more room', () => {
    expect(addStep([{ start: 20, end: 30 }], 5, clip)).toEqual([
      { start: 5, end: 14 },
      { start: 20, end: 30 },
    ]);
    expect(addStep([{ start: 20, end: 30 }], 15, clip)![0]).toEqual({ start: 15, end: 19 });
    expect(addStep([{ start: 20, end: 30 }], 25, clip)).toBeNull();
    expect(addStep([{ start: 20, end: 30 }], 19, clip)).toBeNull();
  });

  it('stop at their neighbours', () => {
    const spans = [
      { start: 2, end: 18 },
      { start: 30, end: 44 },
    ];
    expect(moveEnd(spans, 0, 'end', 40, FRAMES)[0]!.end).toBe(29);
    expect(moveEnd(spans, 1, 'start', 0, FRAMES)[1]!.start).toBe(19);
    expect(moveEnd(spans, 1, 'end', 99, FRAMES)[1]!.end).toBe(60);
  });
});
