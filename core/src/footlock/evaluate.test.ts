import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { cloudJoints } from '../clip/pointCloud';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '../clip/pose';
import { composeMoves, shortestTurn } from '../math/floorMove';
import type { Seam } from '../scene/seam';

import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import { compile, createCompiler, fixedLibrary } from '../compile/compile';
import { evaluate } from './evaluate';
import type { CharacterPlan } from '../plan/plan';
import { evenly } from '../testing/evenly';
import type { SeamPlacing } from '../scene/seam';
import { seamOf } from '../testing/scenes';

const SPEED = 1.3 / 30;
const walk = figureClip(
  31,
  (f) => ({ x: 0, z: SPEED * f, turn: 0, joints: strideJoints((2 * Math.PI * f) / 30) }),
  { id: 'walk' },
);
/** Walks on while it turns by `degrees`, then straight on; its phase runs on from the walk's start. */
const turning = (degrees: number, frames = 76) => {
  let [x, z] = [5, -3];
  const places = Array.from({ length: frames }, (_, f) => {
    const turn = (Math.PI / 180) * degrees * Math.min(1, Math.max(0, (f - 12) / (frames - 25))) + 1;
    x += SPEED * Math.sin(turn);
    z += SPEED * Math.cos(turn);
    return { x, z, turn, joints: strideJoints((2 * Math.PI * (f - 8)) / 30) };
  });
  return figureClip(frames, (f) => places[f]!, { id: `turn${degrees}` });
};
const arc = figureClip(
  31,
  (f) => ({
    x: 100 * SPEED * (1 - Math.cos(0.01 * f)),
    z: 100 * SPEED * Math.sin(0.01 * f),
    turn: 0.01 * f,
    joints: strideJoints((2 * Math.PI * f) / 30),
  }),
  { id: 'arc' },
);

const plan = (
  segments: Parameters<typeof sceneOf>[0],
  clips: Parameters<typeof libraryOf>,
  ...rest: [(number | string)?, Parameters<typeof sceneOf>[2]?]
): CharacterPlan =>
  compile(sceneOf(segments, rest[0] ?? 30, rest[1] ?? null), libraryOf(...clips)).characters[0]!;
const rootAt = (p: CharacterPlan, frame: number): { x: number; z: number; turn: number } => {
  const pose = evaluate(p, frame, makePoseBuffer(p.skeleton));
  return { x: pose.root[0]!, z: pose.root[1]!, turn: pose.root[2]! };
};
const seam = (values: Partial<SeamPlacing>): { seam: Seam } => ({ seam: seamOf(values) });

describe('one segment', () => {
  it('shows the clip itself, placed where the character starts', () => {
    const p = plan([segmentOf(walk)], [walk], 30, { x: 2, z: 1, heading: 90 });
    for (let f = 0; f < 31; f++) {
      const r = rootAt(p, f);
      expect(r.x).toBeCloseTo(2 + SPEED * f, 6);
      expect(r.z).toBeCloseTo(1, 6);
      expect(r.turn).toBeCloseTo(Math.PI / 2, 6);
    }
  });

  it('as authored without a start, at any frame, equal to sampling', () => {
    const p = plan([segmentOf(arc)], [arc]);
    const a = makePoseBuffer(p.skeleton);
    const b = makePoseBuffer(p.skeleton);
    for (const f of [0, 3.25, 17.5, 30]) {
      evaluate(p, f, a);
      samplePose(arc, f, b);
      a.translations.forEach((v, i) => expect(v).toBeCloseTo(b.translations[i]!, 9));
      a.rotations.forEach((v, i) => expect(v).toBeCloseTo(b.rotations[i]!, 9));
    }
  });

  it('holds before it begins and after it ends', () => {
    const p = plan([segmentOf(walk, { start: 10 })], [walk]);
    expect(rootAt(p, 0)).toEqual(rootAt(p, 10));
    expect(rootAt(p, 900)).toEqual(rootAt(p, 40));
    expect(rootAt(p, 40.7)).toEqual(rootAt(p, 40));
  });

  it('in place holds x and z at its first frame and keeps the heading', () => {
    const p = plan([segmentOf(arc, { travel: 'in place' })], [arc], 30, { x: 1, z: 2, heading: 0 });
    for (let f = 0; f < 31; f++) {
      expect(rootAt(p, f).x).toBeCloseTo(1, 9);
      expect(rootAt(p, f).z).toBeCloseTo(2, 9);
    }
    expect(rootAt(p, 30).turn).toBeCloseTo(0.3, 2);
  });
});

describe('loops', () => {
  it('carry their travel and heading on, exactly, for any number of cycles', () => {
    const p = plan([segmentOf(arc, { loop: true, repeat: 100 })], [arc]);
    const cycle = p.segments[0]!.cycle;
    let expected = rootAt(p, 5);
    for (let n = 1; n < 100; n++) {
      expected = composeMoves(cycle, expected);
      const r = rootAt(p, 5 + n * 30);
      expect(Math.hypot(r.x - expected.x, r.z - expected.z)).toBeLessThan(1e-6);
      expect(Math.abs(shortestTurn(r.turn - expected.turn))).toBeLessThan(1e-6);
    }
  });

  it('100 cycles of a straight walk travel 100 times one', () => {
    const p = plan([segmentOf(walk, { loop: true, repeat: 100 })], [walk]);
    expect(rootAt(p, 2999).z - rootAt(p, 0).z).toBeCloseTo(SPEED * 2999, 4);
  });

  it('wrap without a jump, at any frame rate', () => {
    const p = plan([segmentOf(walk, { loop: true, repeat: 4 })], [walk], 120);
    const world = makeWorldPose(p.skeleton);
    const pose = makePoseBuffer(p.skeleton);
    const steps: number[] = [];
    let before: Float64Array | null = null;
    for (let f = 0; f < p.end; f++) {
      poseToWorld(p.skeleton, evaluate(p, f, pose), world);
      const now = world.positions.slice();
      if (before)
        steps.push(
          Math.max(
            ...p.skeleton.names.map((_, j) =>
              Math.hypot(...[0, 1, 2].map((k) => now[j * 3 + k]! - before![j * 3 + k]!)),
            ),
          ),
        );
      before = now;
    }
    // A cycle is 120 frames here; the steps at the wrap are those half a cycle away, where the other leg swings.
    for (const wrap of [119, 239, 359])
      for (const f of [wrap - 1, wrap, wrap + 1])
        expect(Math.abs(steps[f]! - steps[f - 60]!)).toBeLessThan(1e-3);
  });
});

describe('seams', () => {
  it.each([45, 90, 135, 180, -45, -90, -135, -179])(
    'after a turn of %i degrees the walk goes on in its direction',
    (degrees) => {
      const turn = turning(degrees);
      const p = plan(
        [
          segmentOf(walk, { id: 'a', loop: true, repeat: 3 }),
          segmentOf(turn, { id: 'b', start: 82 }),
          segmentOf(walk, { id: 'c', start: 150, loop: true, repeat: 2 }),
        ],
        [walk, turn],
      );
      const before = rootAt(p, 70);
      const after = rootAt(p, 190);
      expect(
        Math.abs(shortestTurn(after.turn - before.turn - (degrees * Math.PI) / 180)) * (180 / Math.PI),
      ).toBeLessThan(1);
      for (let f = 1; f < p.end; f++) {
        const [a, b] = [rootAt(p, f - 1), rootAt(p, f)];
        expect(Math.hypot(b.x - a.x, b.z - a.z)).toBeLessThan(SPEED * 1.3);
        expect((Math.abs(shortestTurn(b.turn - a.turn)) * 180) / Math.PI).toBeLessThan(
          Math.abs(degrees) / 40 + 3,
        );
      }
    },
  );

  it('a cut joins poses that are alike, by the whole body and by the hips', () => {
    for (const fit of ['whole body', 'hips'] as const) {
      const half = segmentOf(walk, { id: 'a', out: 16 });
      const rest = segmentOf(arc, { id: 'b', start: 16, in: 16, ...seam({ fit }) });
      const p = plan([half, rest], [walk, arc]);
      const [a, b] = [rootAt(p, 15), rootAt(p, 16)];
      expect(Math.hypot(b.x - a.x, b.z - a.z)).toBeLessThan(SPEED * 1.5);
      expect(Math.abs(shortestTurn(b.turn - a.turn))).toBeLessThan(0.03);
    }
  });

  it('free leaves the clip as authored, and without facing its direction', () => {
    const turn = turning(90);
    const a = segmentOf(walk, { id: 'a' });
    const free = plan([a, segmentOf(turn, { id: 'b', start: 31, ...seam({ fit: 'free' }) })], [walk, turn]);
    expect(free.segments[1]!.move).toEqual(Float64Array.of(0, 0, 0));
    for (const fit of ['whole body', 'hips'] as const) {
      const kept = plan(
        [a, segmentOf(turn, { id: 'b', start: 31, ...seam({ fit, facing: false }) })],
        [walk, turn],
      );
      expect(kept.segments[1]!.move[2]).toBe(0);
      expect(rootAt(kept, 31).z).toBeCloseTo(SPEED * 31, 1);
    }
  });

  it('a nudge moves in the directions of the incoming root, after the fit', () => {
    const turn = turning(0);
    const make = (nudge: Seam['nudge']) =>
      plan(
        [
          segmentOf(walk, { id: 'a' }),
          segmentOf(turn, { id: 'b', start: 31, ...seam({ fit: 'hips', nudge }) }),
        ],
        [walk, turn],
        30,
        { x: 0, z: 0, heading: 90 },
      );
    const plain = rootAt(make({ x: 0, z: 0, turn: 0 }), 31);
    const ahead = rootAt(make({ x: 0, z: 0.5, turn: 0 }), 31);
    const left = rootAt(make({ x: 0.5, z: 0, turn: 0 }), 31);
    const turned = rootAt(make({ x: 0, z: 0, turn: 30 }), 31);
    // Facing +X, forwards is +X and the left is -Z.
    expect(ahead.x - plain.x).toBeCloseTo(0.5, 6);
    expect(left.z - plain.z).toBeCloseTo(-0.5, 6);
    expect(turned.turn - plain.turn).toBeCloseTo(Math.PI / 6, 6);
    expect(Math.hypot(turned.x - plain.x, turned.z - plain.z)).toBeLessThan(1e-6);
  });

  it('a gap holds the last pose and the next segment goes on from there', () => {
    const p = plan([segmentOf(walk, { id: 'a' }), segmentOf(walk, { id: 'b', start: 60 })], [walk]);
    expect(rootAt(p, 45)).toEqual(rootAt(p, 30));
    expect(Math.hypot(rootAt(p, 60).x - rootAt(p, 30).x, rootAt(p, 60).z - rootAt(p, 30).z)).toBeLessThan(
      0.01,
    );
  });

  it('crossfades from one side wholly to the other', () => {
    const turn = turning(0);
    const p = plan([segmentOf(walk, { id: 'a' }), segmentOf(turn, { id: 'b', start: 23 })], [walk, turn]);
    const alone = plan([segmentOf(walk, { id: 'a' })], [walk]);
    expect(evaluate(p, 23, makePoseBuffer(p.skeleton)).rotations).toEqual(
      evaluate(alone, 23, makePoseBuffer(p.skeleton)).rotations,
    );
    const after = evaluate(p, 31, makePoseBuffer(p.skeleton));
    const own = samplePose(turn, 8, makePoseBuffer(p.skeleton));
    const { rootBone } = p.skeleton;
    own.rotations.forEach((v, i) => {
      if (Math.floor(i / 4) !== rootBone) expect(after.rotations[i]).toBeCloseTo(v, 6);
    });
  });

  it('chains of 100 segments drift by less than 1e-6', () => {
    const segments = Array.from({ length: 100 }, (_, i) =>
      segmentOf(walk, { id: `s${i}`, start: i * 30, loop: true }),
    );
    const p = plan(segments, [walk]);
    const one = plan([segmentOf(walk, { loop: true, repeat: 100 })], [walk]);
    const [a, b] = [rootAt(p, 2990), rootAt(one, 2990)];
    expect(Math.hypot(a.x - b.x, a.z - b.z)).toBeLessThan(1e-6);
    expect(Math.abs(shortestTurn(a.turn - b.turn))).toBeLessThan(1e-6);
  });
});

describe('evaluation', () => {
  const turn = turning(90);
  const scene = sceneOf([
    segmentOf(walk, { id: 'a', loop: true, repeat: 3 }),
    segmentOf(turn, { id: 'b', start: 82 }),
    segmentOf(arc, { id: 'c', start: 150, travel: 'in place' }),
  ]);
  const compiled = compile(scene, libraryOf(walk, turn, arc));
  const p = compiled.characters[0]!;

  it('is a pure function of the frame: the same to the bit in any order', () => {
    const all = Array.from({ length: 200 }, (_, f) => {
      const pose = evaluate(p, f * 0.9, makePoseBuffer(p.skeleton));
      return [...pose.rotations, ...pose.translations, ...pose.root];
    });
    const pose = makePoseBuffer(p.skeleton);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 199 }), (i) => {
        evaluate(p, i * 0.9, pose);
        expect([...pose.rotations, ...pose.translations, ...pose.root]).toEqual(all[i]);
      }),
    );
  });

  it('is continuous inside segments', () => {
    const world = makeWorldPose(p.skeleton);
    const pose = makePoseBuffer(p.skeleton);
    fc.assert(
      fc.property(evenly(0, 140), (f) => {
        const at = (frame: number): Float64Array =>
          poseToWorld(p.skeleton, evaluate(p, frame, pose), world).positions.slice();
        const [a, b] = [at(f), at(f + 1e-4)];
        a.forEach((v, i) => expect(Math.abs(v - b[i]!)).toBeLessThan(1e-3));
      }),
    );
  });

  it('recompiles only what an edit touched', () => {
    const compiler = createCompiler(libraryOf(walk, turn, arc));
    const [first] = compiler.compile(scene).characters;
    expect(compiler.compile({ ...scene, name: 'other' }).characters[0]).toBe(first);
    const moved = { ...scene, segments: { ...scene.segments, c: { ...scene.segments.c!, start: 151 } } };
    expect(compiler.compile(moved).characters[0]).not.toBe(first);
  });

  it('names what is missing', () => {
    expect(() => compile(scene, fixedLibrary({ clip: () => undefined, body: () => walk.skeleton }))).toThrow(
      /not in the library/,
    );
    expect(() => compile(scene, fixedLibrary({ clip: () => walk, body: () => undefined }))).toThrow(
      /body of Keeper/,
    );
  });

  it('compares bodies by joints with roles', () => {
    expect(cloudJoints(p.skeleton)).toHaveLength(16);
  });
});
