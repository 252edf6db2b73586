import { describe, expect, it } from '@jest/globals';
import { makePoseBuffer, samplePose } from '../clip/pose';
import { rootTrack } from '../clip/root';
import { compile } from '../compile/compile';
import { evaluate } from '../footlock/evaluate';
import { InputError } from '../math/errors';
import type { FloorMove } from '../math/floorMove';
import { composeMoves, invertMove, unpackMove } from '../math/floorMove';
import { quatAngle } from '../math/quaternion';
import { parseRate } from '../math/rate';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import { bake, bakeSteps } from './bake';
import { loopClip } from './loopClip';

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

  it('keeps the facing in place where it is asked to', () => {
    for (const keepFacing of [false, true]) {
      const clip = bake(p, compiled.rate, { from: 82, to: 142, travel: 'in place', keepFacing });
      const root = rootTrack(clip);
      const turned = root[59 * 3 + 2]! - root[2]!;
      // The bend turns by 0.02 a frame.
      if (keepFacing) expect(Math.abs(turned)).toBeLessThan(0.1);
      else expect(turned).toBeGreaterThan(0.8);
      const hips = (f: number): number => clip.translations[f * 3 + 2]!;
      expect(Math.abs(hips(59) - hips(0))).toBeLessThan(0.1);
    }
  });

  it('begins at the origin and faces +Z where it is asked to, and goes the same way from there', () => {
    const own = bake(p, compiled.rate, { from: 120, to: 180 });
    const moved = bake(p, compiled.rate, { from: 120, to: 180, fromOrigin: true });
    const start = evaluate(p, 120, makePoseBuffer(p.skeleton)).root.slice();
    const move = invertMove(unpackMove(start));
    for (let f = 0; f < 60; f++) {
      const at = (clip: typeof own): FloorMove => ({
        x: clip.translations[f * 3]!,
        z: clip.translations[f * 3 + 2]!,
        turn: 0,
      });
      const put = composeMoves(move, at(own));
      expect(at(moved).x).toBeCloseTo(put.x, 5);
      expect(at(moved).z).toBeCloseTo(put.z, 5);
      expect(moved.translations[f * 3 + 1]).toBe(own.translations[f * 3 + 1]);
    }
    const root = rootTrack(moved);
    expect(Math.hypot(root[0]!, root[1]!)).toBeLessThan(0.05);
    expect(Math.abs(root[2]!)).toBeLessThan(0.1);
  });

  it('comes out of the rest pose in a lead-in, and is the same from its first frame on', () => {
    const plain = bake(p, compiled.rate, { from: 20, to: 60 });
    const led = bake(p, compiled.rate, { from: 20, to: 60, leadIn: 30 });
    expect(led.frames).toBe(70);
    const joints = p.skeleton.names.length;
    expect(led.rotations.slice(30 * joints * 4)).toEqual(plain.rotations);
    expect(led.translations.slice(30 * 3)).toEqual(plain.translations);
    const hips = p.skeleton.rootBone;
    for (let j = 0; j < joints; j++)
      if (j !== hips)
        expect(quatAngle(led.rotations, j * 4, p.skeleton.restRotations, j * 4)).toBeLessThan(1e-3);
    for (let f = 1; f < 70; f++)
      for (let j = 0; j < joints; j++)
        expect(
          quatAngle(led.rotations, ((f - 1) * joints + j) * 4, led.rotations, (f * joints + j) * 4),
        ).toBeLessThan(0.3);
  });
});

describe('a baked loop', () => {
  const doubled = bake(p, compiled.rate, { from: 0, to: 31 });

  it('loses its last sample where it is the first again, and only there', () => {
    expect(loopClip(doubled, 'drop doubled').frames).toBe(30);
    for (const to of [25, 28, 29, 30]) {
      const part = bake(p, compiled.rate, { from: 0, to });
      expect(loopClip(part, 'drop doubled')).toBe(part);
    }
    expect(loopClip(doubled, 'as it is')).toBe(doubled);
  });

  it('ends where it begins once it is closed', () => {
    const part = bake(p, compiled.rate, { from: 0, to: 28 });
    const closed = loopClip(part, 'close');
    expect(closed.frames).toBe(27);
    // The hips go on to wherever the next cycle begins.
    const joints = p.skeleton.names.map((_, j) => j).filter((j) => j !== p.skeleton.rootBone);
    const count = p.skeleton.names.length;
    const step = ({ rotations }: typeof part, a: number, b: number): number =>
      Math.max(
        ...joints.map((j) => quatAngle(rotations, (a * count + j) * 4, rotations, (b * count + j) * 4)),
      );
    const usual = Math.max(...Array.from({ length: 26 }, (_, f) => step(part, f, f + 1)));
    expect(step(part, 26, 0)).toBeGreaterThan(usual * 1.5);
    expect(step(closed, 26, 0)).toBeLessThan(usual);
  });
});
