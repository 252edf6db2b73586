import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  AnimationClip,
  AnimationMixer,
  AnimationUtils,
  Object3D,
  Quaternion,
  QuaternionKeyframeTrack,
  AdditiveAnimationBlendMode,
} from 'three';
import { quatAngle } from '../math/quaternion';
import { figureSkeleton } from '../testing/figure';
import { addRotations, blendTranslations, overrideRotations } from './blend';
import type { KeyCurve } from '../scene/keys';
import { keyTrack, keyedRotation } from './keys';
import { makeMask } from './mask';
import { evenly } from '../testing/evenly';

const skeleton = figureSkeleton();
const at = (name: string): number => skeleton.names.indexOf(name);
const all = makeMask(skeleton, [], 0);
const quat = fc
  .tuple(...[0, 0, 0, 0].map(() => evenly(-1, 1)))
  .filter((q) => Math.hypot(...q) > 0.1)
  .map((q) => new Quaternion(...(q as [number, number, number, number])).normalize());

const poseOf = (...qs: Quaternion[]): Float64Array => Float64Array.from(qs.flatMap((q) => q.toArray()));
const one = { joints: Int32Array.of(0), weights: Float64Array.of(1) };

describe('masks', () => {
  it('take bones by role or name, chains with a star, and grow softly along a chain', () => {
    const mask = makeMask(
      skeleton,
      [
        { bone: 'leftUpperArm*', weight: 1 },
        { bone: 'head', weight: 0.5 },
      ],
      1,
    );
    const weights = Object.fromEntries(
      [...mask.joints].map((j, i) => [skeleton.names[j]!, mask.weights[i]!]),
    );
    expect(weights).toEqual({ head: 0.5, leftUpperArm: 0.5, leftLowerArm: 1 });
  });

  it('are the whole body without entries', () => {
    expect(all.joints).toHaveLength(skeleton.names.length);
  });

  it('say which bone the body does not have', () => {
    expect(() => makeMask(skeleton, [{ bone: 'leftWing*', weight: 1 }], 0)).toThrow(/no bone leftWing/);
  });
});

describe('blending', () => {
  it('overrides by slerp, as three does', () => {
    fc.assert(
      fc.property(quat, quat, evenly(0, 1), (a, b, w) => {
        const below = poseOf(a);
        overrideRotations(below, poseOf(b), one, w);
        const peer = a.clone().slerp(b, w);
        expect(quatAngle(below, 0, poseOf(peer), 0)).toBeLessThan(1e-6);
      }),
    );
  });

  it('adds what the layer turns away from its reference, as three’s additive mixing does', () => {
    fc.assert(
      fc.property(quat, quat, quat, evenly(0.01, 1), (a, layer, reference, w) => {
        // Which way round half a turn goes is nobody's choice.
        fc.pre(Math.abs(layer.dot(reference)) > 0.05);
        const below = poseOf(a);
        addRotations(below, poseOf(layer), poseOf(reference), one, w);
        const track = (q: Quaternion, then: Quaternion): QuaternionKeyframeTrack =>
          new QuaternionKeyframeTrack('.quaternion', [0, 1], [...q.toArray(), ...then.toArray()]);
        const base = new AnimationClip('base', 1, [track(a, a)]);
        const added = new AnimationClip('added', 1, [track(reference, layer)]);
        AnimationUtils.makeClipAdditive(added, 0);
        const object = new Object3D();
        const mixer = new AnimationMixer(object);
        mixer.clipAction(base).play();
        const action = mixer.clipAction(added, object, AdditiveAnimationBlendMode).play();
        action.setEffectiveWeight(w);
        action.clampWhenFinished = true;
        action.setLoop(2200, 1);
        mixer.setTime(1);
        expect(quatAngle(below, 0, poseOf(object.quaternion), 0)).toBeLessThan(1e-3);
      }),
      { numRuns: 60 },
    );
  });

  it('leaves what the mask leaves out', () => {
    const below = skeleton.restRotations.slice();
    const layer = skeleton.restRotations.map((_, i) => (i % 4 === 0 ? 1 : 0));
    overrideRotations(below, layer, makeMask(skeleton, [{ bone: 'head', weight: 1 }], 0), 1);
    skeleton.names.forEach((_, j) => expect(below[j * 4]).toBe(j === at('head') ? 1 : 0));
  });
});

describe('key poses', () => {
  const key = (
    frame: number,
    q: Quaternion,
    curve: KeyCurve,
    tangent: [number, number, number] | null = null,
  ) => ({
    frame,
    rotation: q.toArray(),
    curve,
    tangent,
    into: null,
  });
  const about = (radians: number): Quaternion =>
    new Quaternion(Math.sin(radians / 2), 0, 0, Math.cos(radians / 2));
  const angleAt = (track: ReturnType<typeof keyTrack>, frame: number): number => {
    const [x, , , w] = keyedRotation(track, frame, new Float64Array(4), 0) as unknown as number[];
    return 2 * Math.atan2(x!, w!);
  };

  it('hold, go straight or smoothly, and stay outside their keys', () => {
    for (const [curve, middle] of [
      ['hold', 0],
      ['linear', 0.25],
      ['smooth', 0.15625],
    ] as const) {
      const track = keyTrack(0, [key(10, about(0), curve), key(20, about(1), curve)]);
      expect(angleAt(track, 12.5)).toBeCloseTo(middle, 9);
      expect(angleAt(track, 0)).toBeCloseTo(0, 9);
      expect(angleAt(track, 20)).toBeCloseTo(1, 9);
      expect(angleAt(track, 99)).toBeCloseTo(1, 9);
    }
  });

  it('pass smooth keys at the mean slope of their neighbours, free ones at their own, and flat ones at none', () => {
    const slope = (track: ReturnType<typeof keyTrack>, f: number): number =>
      (angleAt(track, f + 1e-4) - angleAt(track, f - 1e-4)) / 2e-4;
    const keys = [key(0, about(0), 'smooth'), key(10, about(0.2), 'smooth'), key(20, about(1), 'smooth')];
    expect(slope(keyTrack(0, keys), 10)).toBeCloseTo(0.05, 5);
    const own = keys.map((k, i) =>
      i === 1 ? { ...k, curve: 'free' as const, tangent: [0.3, 0, 0] as [number, number, number] } : k,
    );
    expect(slope(keyTrack(0, own), 10)).toBeCloseTo(0.3, 3);
    const flat = keys.map((k, i) => (i === 1 ? { ...k, curve: 'flat' as const } : k));
    expect(slope(keyTrack(0, flat), 10)).toBeCloseTo(0, 4);
  });

  it('pass through every key, whatever they are', () => {
    fc.assert(
      fc.property(fc.array(quat, { minLength: 2, maxLength: 6 }), (rotations) => {
        const track = keyTrack(
          0,
          rotations.map((q, i) => key(i * 7, q, 'smooth')),
        );
        rotations.forEach((q, i) => {
          const out = keyedRotation(track, i * 7, new Float64Array(4), 0);
          expect(quatAngle(out, 0, poseOf(q), 0)).toBeLessThan(1e-6);
        });
      }),
    );
  });
});

describe('places of a layer', () => {
  const moving = Int32Array.of(1);
  const shares = Float64Array.of(0.5);
  const below = (): Float64Array => Float64Array.of(9, 9, 9, 1, 2, 3);
  const layer = Float64Array.of(0, 0, 0, 5, 7, 11);

  it('are gone over to by weight and mask, other joints stay', () => {
    expect([...blendTranslations(below(), layer, null, moving, shares, 0.5)]).toEqual([9, 9, 9, 2, 3.25, 5]);
  });

  it('are added as their way from the reference, wherever what is below stands', () => {
    const reference = Float64Array.of(0, 0, 0, 4, 4, 4);
    expect([...blendTranslations(below(), layer, reference, moving, shares, 1)]).toEqual([
      9, 9, 9, 1.5, 3.5, 6.5,
    ]);
    expect([...blendTranslations(below(), reference, reference, moving, shares, 1)]).toEqual([...below()]);
  });
});
