import { describe, expect, it } from '@jest/globals';
import { makePoseBuffer, samplePose } from '../clip/pose';
import { compile } from '../compile/compile';
import { evaluate } from '../footlock/evaluate';
import { InputError } from '../math/errors';
import { quatAngle } from '../math/quaternion';
import { parseRate } from '../math/rate';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import { bake, bakeSteps } from './bake';

const walk = figureClip(
  31,
  (f) => ({ x: 0, z: 0.04 * f, turn: 0, joints: strideJoints((2 * Math.PI * f) / 30) }),
  { id: 'walk' },
);
const bend = figureClip(
  60,
  (f) => ({ x: 0, z: 0.03 * f, turn: 0.02 * f, joints: strideJoints((2 * Math.PI * (f - 8)) / 30) }),
  { id: 'bend' },
);
const scene = sceneOf([
  segmentOf(walk, { id: 'a', loop: true, repeat: 3 }),
  segmentOf(bend, { id: 'b', start: 82 }),
  segmentOf(walk, { id: 'c', start: 150, travel: 'in place' }),
]);
const compiled = compile(scene, libraryOf(walk, bend));
const p = compiled.characters[0]!;

describe('bake', () => {
  it('bakes what it evaluates', () => {
    const clip = bake(p, compiled.rate);
    expect(clip.frames).toBe(p.end - p.start);
    const a = makePoseBuffer(p.skeleton);
    const b = makePoseBuffer(p.skeleton);
    for (let f = 0; f < clip.frames; f++) {
      samplePose(clip, f, a);
      evaluate(p, f, b);
      for (let j = 0; j < p.skeleton.names.length; j++)
        expect(quatAngle(a.rotations, j * 4, b.rotations, j * 4)).toBeLessThan(1e-6);
      a.translations.forEach((v, i) => expect(v).toBeCloseTo(b.translations[i]!, 5));
    }
  });

  it('bakes ranges and rates by the sum of the contract, and refuses empty ones', () => {
    expect(bake(p, compiled.rate, { from: 10, to: 20, rate: 60 }).frames).toBe(20);
    expect(bake(p, parseRate(30), { from: 0, to: 90, rate: 24 }).frames).toBe(72);
    expect(() => bake(p, compiled.rate, { from: 10, to: 10 })).toThrow(InputError);
    const still = bake(p, compiled.rate, { travel: 'in place' });
    for (let f = 0; f < still.frames; f++)
      expect(Math.abs(still.translations[f * 3 + 2]! - still.translations[2]!)).toBeLessThan(1e-4);
  });

  it('rounds the number of samples of another rate to the nearest', () => {
    // floor((to - from) R'/R + 0.5): 10 frames at 30 a second are 8.33 samples at 25 and 8 at 24; 11 are 9.17 and 8.8.
    for (const [frames, rate, samples] of [
      [10, 25, 8],
      [11, 24, 9],
      [11, 25, 9],
      [7, 24, 6],
    ] as const)
      expect(bake(p, compiled.rate, { from: 0, to: frames, rate }).frames).toBe(samples);
  });

  it('reports its progress between 0 and 1, rising, and can be left at any step', () => {
    const steps = bakeSteps(p, compiled.rate, { from: 0, to: 400 });
    const seen: number[] = [];
    let step = steps.next();
    for (; !step.done; step = steps.next()) seen.push(step.value);
    expect(seen.length).toBeGreaterThan(4);
    seen.forEach((v, i) => expect(v).toBeGreaterThan(i === 0 ? 0 : seen[i - 1]!));
    expect(seen.at(-1)).toBeLessThanOrEqual(1);
    expect(step.value.frames).toBe(400);
  });
});
