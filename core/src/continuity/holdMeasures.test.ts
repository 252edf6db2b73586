import { describe, expect, it } from '@jest/globals';
import { compile } from '../compile/compile';
import { PLAIN_SEAM } from '../scene/seam';
import { figureClip } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import { measureHolds } from './holdMeasures';

/** A body that stands, and glides by so many metres a frame. */
const standing = (glide: number) =>
  figureClip(40, (f) => ({ x: glide * f, z: 0, turn: 0, y: 0.9 }), { id: `glide${glide}` });

const holdsOf = (glide: number, footLock: boolean) => {
  const clip = standing(glide);
  const base = sceneOf([segmentOf(clip, { id: 'a', seam: PLAIN_SEAM })]);
  const scene = { ...base, characters: { c: { ...base.characters.c!, footLock } } };
  return measureHolds(compile(scene, libraryOf(clip)).characters[0]!);
};

describe('what holding feet takes', () => {
  it('is how far they would have moved', () => {
    const holds = holdsOf(0.002, true);
    expect(holds.map((h) => h.joint)).toEqual(['leftToes', 'rightToes']);
    for (const hold of holds) {
      // Half of 39 frames of 2 mm to either side of the middle.
      expect(hold.correctionCm).toBeCloseTo(3.9, 1);
      expect(hold.leftCm).toBeLessThan(0.01);
      expect([hold.start, hold.end]).toEqual([0, 40]);
    }
  });

  it('is nothing where no feet are held', () => {
    expect(holdsOf(0.002, false)).toEqual([]);
  });
});
