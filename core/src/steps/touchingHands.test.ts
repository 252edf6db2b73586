import { describe, expect, it } from '@jest/globals';
import type { Clip } from '../clip/clip';
import { checkClip } from '../clip/clip';
import { jointTracks } from '../clip/jointTracks';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '../clip/pose';
import { reach } from '../skeleton/reach';
import type { Skeleton } from '../skeleton/skeleton';
import { makeSkeleton } from '../skeleton/skeleton';
import type { FigurePose } from '../testing/figure';
import { figureClip, figureSkeleton } from '../testing/figure';
import { clipOnSkeleton } from './mapClip';

/** The small person with hands; its arms so many times as long, its shoulders so many times as wide. */
function withHands(arms = 1, shoulders = 1): Skeleton {
  const own = figureSkeleton();
  const names = [...own.names, 'leftHand', 'rightHand'];
  const translations = [...own.restTranslations, 0.26, 0, 0, -0.26, 0, 0].map((v, i) => {
    const name = names[Math.floor(i / 3)]!;
    if (i % 3 > 0) return v;
    if (/UpperArm/.test(name)) return v * shoulders;
    return /LowerArm|Hand/.test(name) ? v * arms : v;
  });
  const parents = [...own.parents, names.indexOf('leftLowerArm'), names.indexOf('rightLowerArm')];
  return makeSkeleton({ names, parents, restTranslations: translations });
}

/** Deep in the knees, with the soles on the floor. */
const CROUCH: FigurePose['joints'] = {
  leftUpperLeg: [-2, 0, 0],
  rightUpperLeg: [-2, 0, 0],
  leftLowerLeg: [2.2, 0, 0],
  rightLowerLeg: [2.2, 0, 0],
  leftFoot: [-0.2, 0, 0],
  rightFoot: [-0.2, 0, 0],
};

type Place = readonly [number, number, number];
const FRAMES = 41;

/** A clip whose hands are where they are told to be at every sample; the body bows forwards by `bow` radians. */
function handsAt(
  skeleton: Skeleton,
  places: (f: number) => readonly [Place, Place],
  bow = (_: number) => 0,
  legs: FigurePose['joints'] = {},
): Clip {
  const clip = figureClip(
    FRAMES,
    (f) => ({
      x: 0,
      y: legs === CROUCH ? 0.33 : 0.95,
      z: 0,
      turn: 0,
      joints: { ...legs, spine: [bow(f), 0, 0] },
    }),
    {
      skeleton,
    },
  );
  const rotations = clip.rotations.slice();
  const joint = (name: string): number => skeleton.names.indexOf(name);
  const world = makeWorldPose(skeleton);
  for (let f = 0; f < FRAMES; f++) {
    const pose = samplePose(clip, f, makePoseBuffer(skeleton));
    poseToWorld(skeleton, pose, world);
    ['left', 'right'].forEach((side, i) => {
      const limb = {
        upper: joint(`${side}UpperArm`),
        lower: joint(`${side}LowerArm`),
        end: joint(`${side}Hand`),
      };
      const target = Float64Array.from(places(f)[i]!);
      const axis = Float64Array.of(0, i === 0 ? 1 : -1, 0);
      reach(skeleton.parents, limb, target, 0, axis, pose.rotations, world.rotations, world.positions);
    });
    rotations.set(pose.rotations, f * skeleton.names.length * 4);
  }
  return checkClip({ ...clip, rotations });
}

const handsOf = (clip: Clip) => {
  const tracks = jointTracks(
    clip,
    ['leftHand', 'rightHand'].map((n) => clip.skeleton.names.indexOf(n)),
  );
  return (f: number, hand: number): Place =>
    [0, 1, 2].map((k) => tracks[(f * 2 + hand) * 3 + k]!) as unknown as Place;
};
const apart = (a: Place, b: Place): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
const own = withHands();
const other = withHands(0.85, 1.25);

describe('hands on another body', () => {
  it('touch each other where they did, and come and go without a jump', () => {
    // Half a metre apart, together, and apart again.
    const gap = (f: number): number => 0.05 + (0.25 * (1 + Math.cos((2 * Math.PI * f) / (FRAMES - 1)))) / 2;
    const clip = handsAt(own, (f) => [
      [gap(f), 1.25, 0.3],
      [-gap(f), 1.25, 0.3],
    ]);
    const before = handsOf(clip);
    const at = handsOf(clipOnSkeleton(clip, other));
    const middle = FRAMES >> 1;
    expect(apart(before(middle, 0), before(middle, 1))).toBeCloseTo(0.1, 3);
    expect(apart(at(middle, 0), at(middle, 1))).toBeCloseTo(0.1, 2);
    for (let f = 1; f + 1 < FRAMES; f++)
      for (const hand of [0, 1]) {
        const bend = apart(
          at(f, hand),
          [0, 1, 2].map((k) => (at(f - 1, hand)[k]! + at(f + 1, hand)[k]!) / 2) as unknown as Place,
        );
        expect(bend).toBeLessThan(0.012);
      }
  });

  it('lean on the floor where they did', () => {
    const clip = handsAt(
      own,
      () => [
        [0.2, 0.06, 0.4],
        [-0.2, 0.06, 0.4],
      ],
      () => 1.5,
      CROUCH,
    );
    const [before, at] = [handsOf(clip), handsOf(clipOnSkeleton(clip, withHands(1.15, 1.25)))];
    expect(before(10, 0)[1]).toBeCloseTo(0.06, 3);
    expect(at(10, 0)[1]).toBeCloseTo(0.06, 2);
    expect(at(10, 1)[1]).toBeCloseTo(0.06, 2);
  });

  it('hold on to what stays while the body moves', () => {
    const bow = (f: number): number => 0.25 + 0.25 * Math.sin((2 * Math.PI * f) / (FRAMES - 1));
    const clip = handsAt(
      own,
      () => [
        [0.25, 1.2, 0.42],
        [-0.25, 1.2, 0.42],
      ],
      bow,
    );
    const [before, at] = [handsOf(clip), handsOf(clipOnSkeleton(clip, other))];
    for (let f = 0; f < FRAMES; f++)
      for (const hand of [0, 1]) {
        expect(apart(before(f, hand), before(0, hand))).toBeLessThan(1e-3);
        expect(apart(at(f, hand), at(0, hand))).toBeLessThan(0.02);
        // Where its own arms put them, on average: one as far to the left as the other to the right.
        expect(at(f, 0)[0] + at(f, 1)[0]).toBeCloseTo(0, 2);
      }
  });

  it('are left alone where they touch nothing', () => {
    const clip = handsAt(own, (f) => [
      [0.45, 1.1 + 0.1 * Math.sin(f / 4), 0.2],
      [-0.45, 1.1 + 0.1 * Math.cos(f / 4), 0.2],
    ]);
    const bare = { ...clip, id: 'bare' };
    const at = handsOf(clipOnSkeleton(bare, own));
    const before = handsOf(clip);
    for (let f = 0; f < FRAMES; f++) expect(apart(at(f, 0), before(f, 0))).toBeLessThan(1e-6);
    // On the other body an arm keeps its directions, joint by joint.
    const mapped = clipOnSkeleton(clip, other);
    const upper = own.names.indexOf('leftUpperArm');
    for (let k = 0; k < 4; k++)
      expect(mapped.rotations[(7 * own.names.length + upper) * 4 + k]).toBeCloseTo(
        clip.rotations[(7 * own.names.length + upper) * 4 + k]!,
        5,
      );
  });
});
