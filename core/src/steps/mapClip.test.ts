import { describe, expect, it } from '@jest/globals';
import { InputError } from '../math/errors';
import { quatAngle, quatFromAxis } from '../math/quaternion';
import { makeSkeleton } from '../skeleton/skeleton';
import { figureClip, figureSkeleton, strideJoints } from '../testing/figure';
import { clipOnSkeleton } from './mapClip';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '../clip/pose';

const clip = figureClip(10, (f) => ({ x: 0, z: 0.1 * f, turn: 0.2, joints: strideJoints(f) }));

describe('a clip on another skeleton', () => {
  it('is the clip itself where the skeletons agree', () => {
    expect(clipOnSkeleton(clip, figureSkeleton())).toBe(clip);
  });

  it('is the clip itself where only the place of the hips at rest differs', () => {
    const own = figureSkeleton();
    const restTranslations = own.restTranslations.slice();
    restTranslations[own.rootBone * 3 + 1] = 0;
    const low = makeSkeleton({ names: own.names, parents: own.parents, restTranslations });
    expect(clipOnSkeleton(clip, low)).toBe(clip);
  });

  it('moves the same limbs where rest rotations differ', () => {
    const own = clip.skeleton;
    const restRotations = own.restRotations.slice();
    const knee = own.names.indexOf('leftLowerLeg');
    quatFromAxis(0, 1, 0, 0.8, restRotations, knee * 4);
    const child = own.names.indexOf('leftFoot');
    quatFromAxis(0, 1, 0, -0.8, restRotations, child * 4);
    const other = makeSkeleton({
      names: own.names,
      parents: own.parents,
      restTranslations: own.restTranslations,
      restRotations,
    });
    const mapped = clipOnSkeleton(clip, other);
    const [a, b] = [makeWorldPose(own), makeWorldPose(other)];
    poseToWorld(own, samplePose(clip, 4, makePoseBuffer(own)), a);
    poseToWorld(other, samplePose(mapped, 4, makePoseBuffer(other)), b);
    a.positions.forEach((v, i) => expect(b.positions[i]).toBeCloseTo(v, 5));
    const turned = quatAngle(a.rotations, knee * 4, b.rotations, knee * 4);
    expect(turned).toBeCloseTo(0.8, 4);
  });

  it('stands as bent on its legs as on its own, wherever the floor of its clip is', () => {
    const own = figureSkeleton();
    const restTranslations = own.restTranslations.slice();
    const shank = own.names.indexOf('leftFoot') * 3 + 1;
    for (const name of ['leftFoot', 'rightFoot']) restTranslations[own.names.indexOf(name) * 3 + 1]! *= 1.2;
    expect(restTranslations[shank]).not.toBe(own.restTranslations[shank]);
    const other = makeSkeleton({ names: own.names, parents: own.parents, restTranslations });
    const bent = {
      leftUpperLeg: [-0.5, 0, 0],
      rightUpperLeg: [-0.5, 0, 0],
      leftLowerLeg: [1, 0, 0],
      rightLowerLeg: [1, 0, 0],
      leftFoot: [-0.5, 0, 0],
      rightFoot: [-0.5, 0, 0],
    } as const;
    const kneeOf = (of: typeof clip): number => {
      const world = makeWorldPose(of.skeleton);
      poseToWorld(of.skeleton, samplePose(of, 20, makePoseBuffer(of.skeleton)), world);
      const [hip, knee, ankle] = ['leftUpperLeg', 'leftLowerLeg', 'leftFoot'].map((n) =>
        of.skeleton.names.indexOf(n),
      );
      const v = (a: number, b: number): number[] =>
        [0, 1, 2].map((k) => world.positions[b * 3 + k]! - world.positions[a * 3 + k]!);
      const [up, down] = [v(knee!, hip!), v(knee!, ankle!)];
      const dot = up.reduce((sum, c, k) => sum + c * down[k]!, 0);
      return (Math.acos(dot / (Math.hypot(...up) * Math.hypot(...down))) * 180) / Math.PI;
    };
    for (const y of [0.8, 0.9, 1]) {
      const standing = figureClip(40, () => ({ x: 0, y, z: 0, turn: 0, joints: bent }), { id: `bent${y}` });
      expect(kneeOf(clipOnSkeleton(standing, other))).toBeCloseTo(kneeOf(standing), 0);
    }
  });

  it('follows joints by name in any order, and scales travel by the height of the hips', () => {
    const own = clip.skeleton;
    const doubled = makeSkeleton({
      names: own.names,
      parents: own.parents,
      restTranslations: own.restTranslations.map((v) => v * 2),
    });
    const mapped = clipOnSkeleton(clip, doubled);
    expect(mapped.translations[9 * 3 + 2]).toBeCloseTo(2 * 0.9, 5);
    mapped.rotations.forEach((v, i) => expect(v).toBeCloseTo(clip.rotations[i]!, 6));
  });

  it('refuses a skeleton of another kind and names the bones', () => {
    const other = makeSkeleton({
      names: ['plank', 'end'],
      parents: [-1, 0],
      restTranslations: new Float64Array(6),
    });
    expect(() => clipOnSkeleton(clip, other)).toThrow(InputError);
    expect(() => clipOnSkeleton(clip, other)).toThrow(/0 of its 16 joints/);
  });
});
