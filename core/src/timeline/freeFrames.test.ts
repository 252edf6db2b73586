import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { parseRate } from '../math/rate';
import { figureClip } from '../testing/figure';
import { sceneOf, segmentOf, libraryOf } from '../testing/scenes';
import { laneSpan, layOut, requireClip } from './lane';
import { endLimits, nearestStart, plainOverlap, startLimits } from './freeFrames';

const clip = figureClip(400, (f) => ({ x: 0, z: f, turn: 0 }));
const library = libraryOf(clip);
/** A lane of pieces given by start and length. */
const lane = (...pieces: [number, number][]) => {
  const scene = sceneOf(
    pieces.map(([start, length], i) => segmentOf(clip, { id: `s${i}`, start, out: length })),
  );
  return layOut(scene, scene.lanes.l!, library);
};

describe('a laid-out lane', () => {
  it('knows overlaps, gaps and its span', () => {
    const placed = lane([10, 30], [32, 40], [100, 5]);
    expect(placed.map((p) => [p.overlap, p.gap])).toEqual([
      [0, 0],
      [8, 0],
      [0, 28],
    ]);
    expect(laneSpan(placed)).toEqual({ start: 10, end: 105 });
    expect(laneSpan([])).toBeNull();
  });

  it('names a clip that is gone', () => {
    expect(() => requireClip(segmentOf(clip, { name: 'Walk' }), libraryOf())).toThrow(
      /clip of Walk is not in the library/,
    );
  });
});

describe('room beside neighbours', () => {
  it('keeps the start or end of a segment from hiding a neighbour', () => {
    const placed = lane([0, 30], [25, 40], [60, 30]);
    expect(endLimits(placed, 0)).toEqual({ from: 1, to: 60 });
    expect(startLimits(placed, 1)).toEqual({ from: 1, to: 59 });
    expect(endLimits(placed, 2).to).toBe(Infinity);
    expect(startLimits(placed, 0)).toEqual({ from: 0, to: 24 });
  });

  it('places a segment as near as it can stand: never three at one frame, none hidden', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 30 }), fc.integer({ min: 2, max: 60 })), {
          maxLength: 6,
        }),
        fc.integer({ min: 1, max: 80 }),
        fc.integer({ min: -20, max: 400 }),
        (gaps, frames, wanted) => {
          let at = 0;
          const pieces = gaps.map(([gap, length]): [number, number] => {
            const start = at + gap;
            at = start + length;
            return [start, length];
          });
          const start = nearestStart(lane(...pieces), frames, wanted);
          expect(start).toBeGreaterThanOrEqual(0);
          const all = [...pieces, [start, frames] as [number, number]].sort((a, b) => a[0] - b[0]);
          for (let f = 0; f < at + frames + 40; f++)
            expect(all.filter(([s, n]) => f >= s && f < s + n).length).toBeLessThanOrEqual(2);
          all.forEach(
            ([s], i) =>
              i > 0 &&
              expect(s).toBeGreaterThan(all[i - 1]![0] - (frames === 1 || all[i - 1]![1] === 1 ? 1 : 0)),
          );
        },
      ),
      { numRuns: 120 },
    );
  });
});

describe('the default overlap', () => {
  // Practice: 8 to 10 frames between different motions; the contract's arithmetic.
  it.each([
    [30, 90, 0, 40, 8],
    [60, 200, 0, 200, 16],
    ['24000/1001', 90, 0, 40, 6],
    [30, 90, 0, 10, 5],
    [30, 10, 7, 40, 3],
    [30, 8, 8, 40, 0],
    [30, 90, 0, 1, 0],
  ])(
    'at %p a second, %i frames of which %i are taken, before %i: %i',
    (rate, frames, overlap, next, expected) => {
      expect(plainOverlap(parseRate(rate), { length: frames, covered: overlap }, next)).toBe(expected);
    },
  );
});
