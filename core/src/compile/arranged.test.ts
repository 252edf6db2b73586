import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { composeMoves } from '../math/floorMove';
import type { Scene } from '../scene/scene';
import type { FitMode } from '../scene/seam';
import { PLAIN_CHARACTER } from '../scene/character';
import { PLAIN_LANE, PLAIN_LAYER } from '../scene/lane';
import { PLAIN_SEAM } from '../scene/seam';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import { applyEdit } from '../edit/edit';
import { compile } from './compile';
import { evaluate } from '../footlock/evaluate';
import { moveAbout, moveOnFloor } from '../edit/floorEdits';

const walk = figureClip(
  31,
  (f) => ({ x: 0, z: (1.3 * f) / 30, turn: 0, joints: strideJoints((2 * Math.PI * f) / 30) }),
  { id: 'walk' },
);
const turn = figureClip(
  60,
  (f) => ({ x: 0.2 * Math.sin(f / 20), z: 0.01 * f, turn: f * 0.03, joints: strideJoints(f / 9) }),
  { id: 'turn' },
);
const library = libraryOf(walk, turn);
const rootAt = (scene: Scene, frame: number, character = 0): number[] => {
  const plan = compile(scene, library).characters[character]!;
  return [...evaluate(plan, frame, makePoseBuffer(plan.skeleton)).root];
};
const worldAt = (scene: Scene, frame: number): Float64Array => {
  const plan = compile(scene, library).characters[0]!;
  const pose = evaluate(plan, frame, makePoseBuffer(plan.skeleton));
  return poseToWorld(plan.skeleton, pose, makeWorldPose(plan.skeleton)).positions;
};
const furthest = (a: ArrayLike<number>, b: ArrayLike<number>): number =>
  Math.max(...Array.from(a, (v, i) => Math.abs(v - b[i]!)));

/** Evenly between -3 and 3: of real numbers by their bits nearly all are next to zero. */
const hundredths = fc.integer({ min: -300, max: 300 }).map((v) => v / 100);

describe('segments moved on the floor as one', () => {
  const fits: FitMode[] = ['whole body', 'hips', 'left foot', 'free', { pin: { x: 1, z: 2, heading: 30 } }];
  it('stand as if one body had been moved, and what follows comes along', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...fits), { minLength: 4, maxLength: 4 }),
        fc.boolean(),
        fc.subarray(['s0', 's1', 's2', 's3'], { minLength: 1 }),
        fc.record({ x: hundredths, z: hundredths, turn: hundredths }),
        (modes, facing, members, by) => {
          const scene = sceneOf(
            modes.map((fit, i) =>
              segmentOf(i % 2 ? turn : walk, {
                id: `s${i}`,
                start: i * 36,
                out: i % 2 ? 40 : 31,
                seam: { ...PLAIN_SEAM, fit, facing, nudge: { x: 0.1 * i, z: 0, turn: 5 * i } },
              }),
            ),
          );
          const move = moveAbout({ x: 0.5, z: -1 }, by);
          const plan = compile(scene, library);
          const moved = applyEdit(scene, moveOnFloor(scene, plan, members, move, 'm'), library);
          for (const [i, fit] of modes.entries()) {
            if (!members.includes(`s${i}`)) continue;
            for (const f of [i * 36 + 6, i * 36 + 20]) {
              const [x, z, heading] = rootAt(scene, f) as [number, number, number];
              const wanted = composeMoves(move, { x, z, turn: heading });
              const now = rootAt(moved, f);
              expect([i, fit, now[0]!]).toEqual([i, fit, expect.closeTo(wanted.x, 5)]);
              expect(now[1]).toBeCloseTo(wanted.z, 5);
              expect(Math.cos(now[2]! - wanted.turn)).toBeCloseTo(1, 9);
            }
          }
          const last = modes.findLastIndex((_, i) => members.includes(`s${i}`));
          const next = modes[last + 1];
          if (next && typeof next === 'string' && next !== 'free' && facing) {
            const [x, z, heading] = rootAt(scene, last * 36 + 50) as [number, number, number];
            const wanted = composeMoves(move, { x, z, turn: heading });
            expect(rootAt(moved, last * 36 + 50)[0]).toBeCloseTo(wanted.x, 6);
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('gaps and the lead-in', () => {
  const gapped = (gap: 'hold' | 'rest' | 'ease'): Scene =>
    sceneOf([
      segmentOf(turn, { id: 'a' }),
      segmentOf(walk, { id: 'b', start: 120, seam: { ...PLAIN_SEAM, gap } }),
    ]);
  /** The rest pose of the small person: arms straight out. */
  const armsOut = (scene: Scene, frame: number): number => {
    const p = worldAt(scene, frame);
    const { names } = walk.skeleton;
    return Math.abs(p[names.indexOf('leftLowerArm') * 3 + 1]! - p[names.indexOf('leftUpperArm') * 3 + 1]!);
  };

  it('holds the last pose, eases across, or goes by the rest pose, without a jump', () => {
    for (const gap of ['hold', 'ease', 'rest'] as const) {
      const scene = gapped(gap);
      let before = worldAt(scene, 58).slice();
      let moved = 0;
      for (let f = 58.5; f <= 120; f += 0.5) {
        const now = worldAt(scene, f).slice();
        moved = Math.max(moved, furthest(before, now));
        if (f < 119.5 || gap !== 'hold') expect(furthest(before, now)).toBeLessThan(0.06);
        before = now;
      }
      if (gap === 'hold') expect(furthest(worldAt(scene, 60).slice(), worldAt(scene, 118))).toBe(0);
      else expect(moved).toBeGreaterThan(0.001);
    }
    expect(armsOut(gapped('rest'), 90)).toBeLessThan(1e-6);
    expect(armsOut(gapped('ease'), 90)).toBeGreaterThan(0.05);
  });

  it('eases out of the rest pose before the first segment', () => {
    const scene = sceneOf([segmentOf(walk, { id: 'a', start: 60 })]);
    const led = { ...scene, characters: { c: { ...scene.characters.c!, leadIn: 60 } } };
    expect(armsOut(led, 0)).toBeLessThan(1e-6);
    expect(furthest(worldAt(led, 60).slice(), worldAt(scene, 60))).toBe(0);
    expect(furthest(rootAt(led, 0), rootAt(scene, 60))).toBeLessThan(1e-9);
    expect(armsOut(led, 30)).toBeGreaterThan(0.02);
  });
});

describe('characters and lanes', () => {
  it('of another size are that much larger, travel and all, and their joints turn as before', () => {
    const scene = sceneOf([
      segmentOf(walk, { id: 'a', loop: true, repeat: 3 }),
      segmentOf(turn, { id: 'b', start: 82 }),
    ]);
    const large = { ...scene, characters: { c: { ...scene.characters.c!, size: 1.6 } } };
    for (const f of [0, 40, 86, 130]) {
      const [a, b] = [worldAt(scene, f).slice(), worldAt(large, f)];
      expect(
        furthest(
          a.map((v) => v * 1.6),
          b,
        ),
      ).toBeLessThan(1e-5);
    }
  });

  it('without segments, or muted, stand in their rest pose where they start', () => {
    const scene = sceneOf([segmentOf(walk, { id: 'a' })], 30, { x: 2, z: 1, heading: 90 });
    const muted = applyEdit(scene, { type: 'change lane', lane: 'l', values: { muted: true } }, library);
    expect(rootAt(muted, 10)[0]).toBeCloseTo(2, 9);
    expect(rootAt(muted, 10)[2]).toBeCloseTo(Math.PI / 2, 9);
    const feet = [...worldAt(muted, 10)].filter((_, i) => i % 3 === 1);
    expect(Math.min(...feet)).toBeGreaterThan(-1e-9);
  });

  it('solo leaves out every other lane, but for what the soloed one lies on', () => {
    const base = sceneOf([segmentOf(walk, { id: 'a' })]);
    const scene: Scene = {
      ...base,
      characters: { ...base.characters, d: { ...PLAIN_CHARACTER, id: 'd', name: 'Visitor', body: 'body' } },
      characterOrder: ['c', 'd'],
      lanes: {
        ...base.lanes,
        y: { ...PLAIN_LAYER, id: 'y', name: 'one', character: 'c', solo: true },
        z: { ...PLAIN_LAYER, id: 'z', name: 'two', character: 'c' },
        m: { ...PLAIN_LANE, id: 'm', kind: 'body', character: 'd', segments: ['b'] },
      },
      laneOrder: ['l', 'y', 'z', 'm'],
      segments: { ...base.segments, b: segmentOf(walk, { id: 'b' }) },
    };
    const plan = compile(scene, library);
    expect(plan.characters.map((c) => [c.segments.length, c.layers.map((l) => l.id)])).toEqual([
      [1, ['y']],
      [0, []],
    ]);
  });

  it('raised segments stand as much higher', () => {
    const scene = sceneOf([segmentOf(walk, { id: 'a' })]);
    const raised = applyEdit(scene, { type: 'change', segment: 'a', values: { lift: 0.25 } }, library);
    const [a, b] = [worldAt(scene, 12).slice(), worldAt(raised, 12)];
    for (let i = 1; i < a.length; i += 3) expect(b[i]! - a[i]!).toBeCloseTo(0.25, 9);
  });
});
