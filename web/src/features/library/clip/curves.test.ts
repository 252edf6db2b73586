import { describe, expect, it } from '@jest/globals';
import { compile, bake, fixedLibrary } from '@warper/core';
import { rootTrack } from '@warper/core/kernels';
import { readMotionFile } from '@warper/formats';
import { readFileSync } from 'node:fs';
import { clipCurves } from './curves';
import { shownSteps } from './shownSteps';
import { asRecorded, variantName, variantScene } from './variant';

const bytes = new Uint8Array(
  readFileSync(new URL('../../../../../demo/made/keeper-walk.glb', import.meta.url)),
);
const walk = (await readMotionFile(bytes, 'keeper-walk.glb')).clips[0]!;
const library = fixedLibrary({ clip: () => walk, body: () => walk.skeleton });

describe('curves of a clip', () => {
  it('show the speed of a walk, its hips, and feet that stand and swing', () => {
    const curves = clipCurves(walk);
    expect(curves).toHaveLength(walk.frames);
    const mean = curves.reduce((s, c) => s + c.speed, 0) / curves.length;
    expect(mean).toBeCloseTo(1.3, 1);
    for (const c of curves) expect(c.hips).toBeGreaterThan(0.8);
    const left = curves.map((c) => c.leftFoot!);
    expect(Math.min(...left)).toBeLessThan(3);
    expect(Math.max(...left)).toBeGreaterThan(6);
  });

  it('are thinned out for long clips', () => {
    const rotations = new Float32Array(walk.rotations.length * 40);
    const translations = new Float32Array(walk.translations.length * 40);
    for (let i = 0; i < 40; i++) {
      rotations.set(walk.rotations, i * walk.rotations.length);
      translations.set(walk.translations, i * walk.translations.length);
    }
    const long = { ...walk, frames: walk.frames * 40, rotations, translations };
    expect(clipCurves(long).length).toBeLessThanOrEqual(400);
  });
});

describe('variants of a clip', () => {
  const plain = asRecorded(walk);
  const performed = (variant: typeof plain, cycles?: number) => {
    const plan = compile(variantScene(walk, 'body', variant, cycles), library);
    return bake(plan.characters[0]!, plan.rate);
  };

  it('play the clip as it is, a part of it, in place, or its loop over and over', () => {
    expect(performed(plain).frames).toBe(31);
    expect(performed({ ...plain, in: 5, out: 15 }).frames).toBe(10);
    expect(performed({ ...plain, loop: true }, 3).frames).toBe(90);
    const still = rootTrack(performed({ ...plain, travel: 'in place' }));
    expect(still[30 * 3 + 1]).toBeCloseTo(still[1]!, 9);
  });

  it('show the steps where they are played', () => {
    const steps = (variant: typeof plain) =>
      shownSteps(compile(variantScene(walk, 'body', variant, 3), library).characters[0]!.segments[0]!);
    const [once, thrice] = [steps(plain), steps({ ...plain, loop: true })];
    const on = (spans: { start: number; end: number }[]): number =>
      spans.reduce((n, s) => n + s.end - s.start, 0);
    expect(once.leftFoot.length).toBeGreaterThan(0);
    // Of 90 frames three times as many as of the 30 of a cycle, whose doubled last sample is not played.
    expect(on(thrice.leftFoot) / 3).toBeCloseTo(on(once.leftFoot), -0.5);
    const mirrored = steps({ ...plain, mirror: true });
    expect(mirrored.leftFoot).toEqual(once.rightFoot);
    const back = steps({ ...plain, reverse: true });
    expect(on(back.leftFoot)).toBe(on(once.leftFoot));
    expect(back.leftFoot).not.toEqual(once.leftFoot);
  });

  it('are called by what was done', () => {
    expect(variantName('Walk', walk, plain)).toBe('Walk');
    expect(variantName('Walk', walk, { ...plain, mirror: true, travel: 'in place', in: 3 })).toBe(
      'Walk, mirrored, in place, 3 to 31',
    );
  });
});
