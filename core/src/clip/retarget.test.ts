import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { quatAngle, quatFromAxis } from '../math/quaternion';
import type { Skeleton } from '../skeleton/skeleton';
import { jointOfRole, makeSkeleton } from '../skeleton/skeleton';
import { figureClip, figureSkeleton, strideJoints } from '../testing/figure';
import type { Clip } from './clip';
import { clipOnSkeleton, matchJoints } from '../steps/mapClip';
import type { WorldPose } from './pose';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from './pose';
import { retargetMotion } from './retarget';
import { evenly } from '../testing/evenly';

const own = figureSkeleton();
const clip = figureClip(10, (f) => ({
  x: 0.1 * f,
  z: 0.2 * f,
  turn: 0.3,
  joints: { ...strideJoints(f * 0.7), spine: [0.1, 0.2, 0.05], chest: [0, 0.3, 0] },
}));

const carried = (target: Skeleton, from: Clip = clip): Clip => ({
  ...from,
  skeleton: target,
  translated: Int32Array.of(target.rootBone),
  ...retargetMotion(from, target, matchJoints(from.skeleton, target)),
});

const worldAt = (c: Clip, sample: number): WorldPose =>
  poseToWorld(c.skeleton, samplePose(c, sample, makePoseBuffer(c.skeleton)), makeWorldPose(c.skeleton));

/** Unit direction from one role's joint to another's. */
function direction(c: Clip, world: WorldPose, from: string, to: string): number[] {
  const [a, b] = [from, to].map((r) => jointOfRole(c.skeleton, r as never) * 3) as [number, number];
  const v = [0, 1, 2].map((k) => world.positions[b + k]! - world.positions[a + k]!);
  return v.map((x) => x / Math.hypot(...v));
}

const LIMBS = ['left', 'right'].flatMap((s): [string, string][] => [
  [`${s}UpperArm`, `${s}LowerArm`],
  [`${s}UpperLeg`, `${s}LowerLeg`],
  [`${s}LowerLeg`, `${s}Foot`],
]);

/** The small person with its arms hanging in the rest pose, and other lengths. */
function hangingSkeleton(stretch: number): Skeleton {
  const restTranslations = own.restTranslations.map((v) => v * stretch);
  for (const [name, side] of [
    ['leftLowerArm', 1],
    ['rightLowerArm', -1],
  ] as const)
    restTranslations.set([side * 0.12, -0.24, 0.02], own.names.indexOf(name) * 3);
  return makeSkeleton({ ...own, roles: own.roles, restTranslations });
}

describe('a motion carried over to another skeleton', () => {
  it('of the same skeleton is the same motion', () => {
    const again = carried(makeSkeleton({ ...own }));
    again.rotations.forEach((v, i) => expect(v).toBeCloseTo(clip.rotations[i]!, 6));
    again.translations.forEach((v, i) => expect(v).toBeCloseTo(clip.translations[i]!, 6));
  });

  it('points every limb the same way, from a rest pose with arms out to one with arms down', () => {
    fc.assert(
      fc.property(evenly(0.5, 2), fc.integer({ min: 0, max: 9 }), (stretch, sample) => {
        const other = carried(hangingSkeleton(stretch));
        const [a, b] = [worldAt(clip, sample), worldAt(other, sample)];
        for (const [from, to] of LIMBS) {
          const [u, v] = [direction(clip, a, from, to), direction(other, b, from, to)];
          const cosine = u.reduce((s, x, k) => s + x * v[k]!, 0);
          expect((Math.acos(Math.min(1, cosine)) * 180) / Math.PI).toBeLessThan(0.1);
        }
      }),
      { numRuns: 30 },
    );
  });

  it('does not mind which way the other one faces at rest', () => {
    const turned = makeSkeleton({
      ...own,
      restRotations: quatFromAxis(0, 1, 0, 1.2, own.restRotations.slice(), 0),
    });
    const [a, b] = [worldAt(clip, 4), worldAt(carried(turned), 4)];
    a.positions.forEach((v, i) => expect(b.positions[i]).toBeCloseTo(v, 5));
  });

  it('shares the turns of a trunk out over another number of bones', () => {
    const names = own.names.filter((n) => n !== 'chest');
    const parents = names.map((n) => {
      const parent = own.names[own.parents[own.names.indexOf(n)]!];
      return parent === undefined ? -1 : names.indexOf(parent === 'chest' ? 'spine' : parent);
    });
    const short = makeSkeleton({
      names,
      parents,
      restTranslations: names.flatMap((n) => [
        ...own.restTranslations.slice(own.names.indexOf(n) * 3, own.names.indexOf(n) * 3 + 3),
      ]),
    });
    const [a, b] = [worldAt(clip, 5), worldAt(carried(short), 5)];
    // The only bone of the trunk turns as far as the last one of the other.
    const angle = quatAngle(
      a.rotations,
      own.names.indexOf('chest') * 4,
      b.rotations,
      names.indexOf('spine') * 4,
    );
    expect(angle).toBeLessThan(1e-5);
  });

  it('takes travel and height at the ratio of the legs', () => {
    const doubled = makeSkeleton({ ...own, restTranslations: own.restTranslations.map((v) => v * 2) });
    const other = carried(doubled);
    const d = (c: Clip): number => c.translations[9 * 3 + 2]! - c.translations[2]!;
    expect(d(other) / d(clip)).toBeCloseTo(2, 5);
  });

  it('keeps the feet that stand on the floor and on their spot', () => {
    const standing = figureClip(40, (f) => ({
      x: 0,
      z: 0,
      y: 0.95 - 0.03 * Math.sin((f / 39) * Math.PI),
      turn: 0,
    }));
    const target = hangingSkeleton(1.3);
    const mapped = clipOnSkeleton(standing, target);
    const foot = target.names.indexOf('leftToes');
    const spots = [0, 10, 20, 39].map((s) => worldAt(mapped, s).positions.slice(foot * 3, foot * 3 + 3));
    for (const spot of spots) spot.forEach((v, k) => expect(v).toBeCloseTo(spots[0]![k]!, 4));
  });
});
