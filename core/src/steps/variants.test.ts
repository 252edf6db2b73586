import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { quatFromAxis, quatRotate } from '../math/quaternion';
import { restHeading } from '../skeleton/rootBone';
import { makeSkeleton } from '../skeleton/skeleton';
import { figureClip, figureSkeleton, strideJoints } from '../testing/figure';
import type { Clip } from '../clip/clip';
import { mirrorPartners } from '../clip/mirror';
import { mirrorClip } from './variants';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '../clip/pose';
import { evenly } from '../testing/evenly';

const places = (clip: Clip, sample: number): Float64Array => {
  const world = makeWorldPose(clip.skeleton);
  return poseToWorld(clip.skeleton, samplePose(clip, sample, makePoseBuffer(clip.skeleton)), world).positions;
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

  it('is reflected in the plane of a body that faces elsewhere at rest, its travel bone with it', () => {
    const plain = figureSkeleton();
    const heading = 0.7;
    // The whole body turned about the vertical at rest.
    const restRotations = plain.restRotations.slice();
    quatFromAxis(0, 1, 0, heading, restRotations, 0);
    const skeleton = makeSkeleton({ ...plain, restRotations });
    const root = Float64Array.of(1, 2, 0.3, 1.5, 2.5, 0.4);
    const clip: Clip = {
      ...figureClip(2, odd, { skeleton }),
      travelBone: { joint: 0, turned: true, root },
    };
    const mirrored = mirrorClip(clip).travelBone!.root;
    // A place p goes to p - 2 (p . n) n, n across the body; a heading h to 2 rest - h.
    const n = [Math.cos(heading), -Math.sin(heading)] as const;
    for (let s = 0; s < 2; s++) {
      const [x, z, h] = root.subarray(s * 3, s * 3 + 3) as unknown as [number, number, number];
      const across = 2 * (x * n[0] + z * n[1]);
      expect(mirrored[s * 3]).toBeCloseTo(x - across * n[0], 9);
      expect(mirrored[s * 3 + 1]).toBeCloseTo(z - across * n[1], 9);
      expect(mirrored[s * 3 + 2]).toBeCloseTo(2 * heading - h, 9);
    }
  });

  it('takes places of other joints through the rest of the parent that they come from', () => {
    const skeleton = crookedSkeleton();
    const plain = figureClip(3, odd, { skeleton });
    // Both hands' joints move away from their offsets, each in its own way.
    const moving = ['leftLowerArm', 'rightLowerArm'].map((name) => skeleton.names.indexOf(name));
    const translated = Int32Array.of(skeleton.rootBone, ...moving);
    const translations = new Float32Array(3 * 9);
    for (let f = 0; f < 3; f++) {
      translations.set(plain.translations.subarray(f * 3, f * 3 + 3), f * 9);
      moving.forEach((joint, i) => {
        for (let k = 0; k < 3; k++)
          translations[f * 9 + 3 + i * 3 + k] =
            skeleton.restTranslations[joint * 3 + k]! + 0.03 * (k + 1) * (i + 1) * (f + 1);
      });
    }
    const clip = { ...plain, translated, translations };
    const mirrored = mirrorClip(clip);
    const partner = mirrorPartners(skeleton);
    // How far each stands from where its parent would have it at rest, in world space, is reflected.
    const strays = (of: Clip, joint: number): number[] => {
      const at = Float32Array.from(of.translations);
      for (let f = 0; f < 3; f++)
        for (let i = 1; i < 3; i++)
          for (let k = 0; k < 3; k++)
            at[f * 9 + i * 3 + k] = skeleton.restTranslations[translated[i]! * 3 + k]!;
      const still = { ...of, translations: at };
      const parent = skeleton.parents[joint]!;
      const rest = skeleton.rest.rotations;
      // The parents' own rotations away from rest are reflected too: compared at rest, they do not matter.
      const v = new Float64Array(3);
      for (let k = 0; k < 3; k++) {
        const i = [...translated].indexOf(joint);
        v[k] = of.translations[9 + i * 3 + k]! - still.translations[9 + i * 3 + k]!;
      }
      quatRotate(rest, parent * 4, v, 0, v, 0);
      return [...v];
    };
    for (const joint of moving) {
      const [a, b] = [strays(clip, partner[joint]!), strays(mirrored, joint)];
      const n = [Math.cos(restHeading(skeleton)), -Math.sin(restHeading(skeleton))] as const;
      const across = 2 * (a[0]! * n[0] + a[2]! * n[1]);
      expect(b[0]!).toBeCloseTo(a[0]! - across * n[0], 5);
      expect(b[1]!).toBeCloseTo(a[1]!, 5);
      expect(b[2]!).toBeCloseTo(a[2]! - across * n[1], 5);
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
