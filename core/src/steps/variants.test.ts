import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { quatFromAxis } from '../math/quaternion';
import { makeSkeleton } from '../skeleton/skeleton';
import { figureClip, figureSkeleton, strideJoints } from '../testing/figure';
import type { Clip } from '../clip/clip';
import { mirrorPartners } from '../clip/mirror';
import { mirrorClip } from './variants';
import { makePose, makeWorldPose, poseToWorld, samplePose } from '../clip/pose';
import { evenly } from '../testing/evenly';

const places = (clip: Clip, sample: number): Float64Array => {
  const world = makeWorldPose(clip.skeleton);
  return poseToWorld(clip.skeleton, samplePose(clip, sample, makePose(clip.skeleton)), world).positions;
};
const odd = (f: number) => ({
  x: 0.3 + 0.05 * f,
  z: 0.1 * f,
  turn: 0.2 + 0.03 * f,
  joints: { ...strideJoints(f), leftLowerArm: [0, 0.6, 0.2] as const, spine: [0.1, 0.2, 0.3] as const },
});

/** The small person with its bones turned about in the rest pose, and no two sides alike. */
function crookedSkeleton() {
  const plain = figureSkeleton();
  const restRotations = plain.restRotations.slice();
  plain.names.forEach((_, j) => {
    if (j > 0) quatFromAxis(0, 1, 0, 0.1 * j, restRotations, j * 4);
  });
  return makeSkeleton({ ...plain, restRotations });
}

describe('a mirrored clip', () => {
  it('has every joint where the reflection of its counterpart was', () => {
    const clip = figureClip(8, odd);
    const mirrored = mirrorClip(clip);
    const partner = mirrorPartners(clip.skeleton);
    for (let s = 0; s < 8; s++) {
      const [a, b] = [places(clip, s), places(mirrored, s)];
      partner.forEach((p, j) => {
        expect(b[j * 3]!).toBeCloseTo(-a[p * 3]!, 5);
        expect(b[j * 3 + 1]!).toBeCloseTo(a[p * 3 + 1]!, 5);
        expect(b[j * 3 + 2]!).toBeCloseTo(a[p * 3 + 2]!, 5);
      });
    }
  });

  it('mirrored again is itself, whatever the rest pose is like', () => {
    fc.assert(
      fc.property(fc.boolean(), evenly(-3, 3), (crooked, turn) => {
        const skeleton = crooked ? crookedSkeleton() : figureSkeleton();
        const clip = figureClip(4, (f) => ({ ...odd(f), turn }), { skeleton });
        const twice = mirrorClip({ ...mirrorClip(clip) });
        twice.translations.forEach((v, i) => expect(v).toBeCloseTo(clip.translations[i]!, 6));
        const [a, b] = [places(clip, 2), places(twice, 2)];
        a.forEach((v, i) => expect(b[i]).toBeCloseTo(v, 5));
      }),
      { numRuns: 20 },
    );
  });

  it('pairs joints without roles by the side in their names', () => {
    const skeleton = makeSkeleton({
      names: ['top', 'wing_L', 'wing_R', 'tip.l', 'tip.r', 'middle'],
      parents: [-1, 0, 0, 1, 2, 0],
      restTranslations: new Float64Array(18),
    });
    expect([...mirrorPartners(skeleton)]).toEqual([0, 2, 1, 4, 3, 5]);
  });
});
