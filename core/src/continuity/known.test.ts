import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { compile } from '../compile/compile';
import type { Join } from '../scene/seam';
import { PLAIN_CROSSFADE } from '../scene/seam';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, seamOf, segmentOf } from '../testing/scenes';
import { measureSeam } from './measureSeam';

const SPEED = 1.2 / 30;
const stand = figureClip(91, () => ({ x: 0, z: 0, turn: 0, joints: strideJoints(0.4) }), { id: 'stand' });
const walk = figureClip(
  91,
  (f) => ({ x: 0, z: SPEED * f, turn: 0, joints: strideJoints((2 * Math.PI * f) / 30) }),
  { id: 'walk' },
);
/** One motion cut in two, with a fault put in between: a move on the floor (metres) and a turn (degrees). */
function faulty(
  clip: typeof walk,
  overlap: number,
  nudge: { x: number; z: number; turn: number },
  join?: Join,
) {
  const scene = sceneOf([
    segmentOf(clip, { id: 'a', out: 40 + overlap }),
    segmentOf(clip, { id: 'b', in: 40, start: 40, seam: seamOf({ fit: 'hips', nudge }, join) }),
  ]);
  return measureSeam(compile(scene, libraryOf(clip)).characters[0]!, 0, 30);
}
const within = (value: number, known: number): void => {
  expect(value).toBeGreaterThan(0.95 * known);
  expect(value).toBeLessThan(1.05 * known);
};
/** A fault across the way: its size in metres, to either side. */
const aside = fc.tuple(fc.double({ min: 0.03, max: 0.5, noNaN: true }), fc.constantFrom(-1, 1));

describe('faults of a known size', () => {
  it('that jump are measured within five in a hundred, standing and walking', () => {
    fc.assert(
      fc.property(aside, fc.constantFrom(stand, walk), ([size, side], clip) => {
        within(faulty(clip, 0, { x: side * size, z: 0, turn: 0 }).popCm, size * 100);
      }),
      { numRuns: 40 },
    );
  });

  it('that glide are: the steepest part of a smooth crossfade is one and a half times its mean', () => {
    fc.assert(
      fc.property(aside, fc.integer({ min: 10, max: 40 }), ([size, side], overlap) => {
        const { surgeCm } = faulty(stand, overlap, { x: side * size, z: 0, turn: 0 });
        within(surgeCm, (1.5 * size * 100) / overlap);
        const linear = { ...PLAIN_CROSSFADE, curve: 'linear' as const };
        within(
          faulty(stand, overlap, { x: side * size, z: 0, turn: 0 }, linear).surgeCm,
          (size * 100) / overlap,
        );
      }),
      { numRuns: 40 },
    );
  });

  it('that turn are, at once and over a crossfade', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 4, max: 150, noNaN: true }),
        fc.constantFrom(-1, 1),
        fc.integer({ min: 10, max: 40 }),
        (degrees, side, overlap) => {
          const nudge = { x: 0, z: 0, turn: side * degrees };
          within(faulty(stand, 0, nudge).turnDegrees, degrees);
          within(faulty(stand, overlap, nudge).turnDegrees, (1.5 * degrees) / overlap);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('that carry a foot that stands are', () => {
    fc.assert(
      fc.property(aside, fc.integer({ min: 10, max: 40 }), ([size, side], overlap) => {
        within(faulty(stand, overlap, { x: side * size, z: 0, turn: 0 }).slideCm, size * 100);
      }),
      { numRuns: 40 },
    );
  });
});
