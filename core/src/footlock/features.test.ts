import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Clip } from '../clip/clip';
import { mirrorClip } from '../steps/variants';
import type { Pose } from '../clip/pose';
import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { quatAngle } from '../math/quaternion';
import type { LayerLane } from '../scene/lane';
import type { Scene } from '../scene/scene';
import type { Segment } from '../scene/segment';
import { PLAIN_LAYER } from '../scene/lane';
import { PLAIN_SEAM } from '../scene/seam';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import { compile, createCompiler } from '../compile/compile';
import { evaluate } from './evaluate';
import type { CharacterPlan } from '../plan/plan';
import type { Join } from '../scene/seam';
import { withSeam } from '../scene/seam';

const TAU = 2 * Math.PI;
const walk = figureClip(
  31,
  (f) => ({ x: 0.01 * Math.sin((f / 30) * TAU), z: 0.04 * f, turn: 0, joints: strideJoints((f / 30) * TAU) }),
  { id: 'walk' },
);
const bendy = figureClip(41, (f) => ({ x: 0, z: 0.03 * f, turn: 0.02 * f, joints: strideJoints(f * 0.2) }), {
  id: 'bendy',
});
const library = libraryOf(walk, bendy);

const planOf = (scene: Scene): CharacterPlan => compile(scene, library).characters[0]!;
const plan = (clip: Clip, values: Partial<Segment>): CharacterPlan =>
  planOf(sceneOf([segmentOf(clip, { id: 'a', ...values })]));
const poseAt = (c: CharacterPlan, frame: number): Pose => evaluate(c, frame, makePoseBuffer(c.skeleton));
const placesAt = (c: CharacterPlan, frame: number): Float64Array =>
  poseToWorld(c.skeleton, poseAt(c, frame), makeWorldPose(c.skeleton)).positions;
const close = (a: ArrayLike<number>, b: ArrayLike<number>, digits = 6): void => {
  for (let i = 0; i < a.length; i++) expect(b[i]).toBeCloseTo(a[i]!, digits);
};

describe('time of a segment', () => {
  it('backwards shows the same poses in the other order, looping or not', () => {
    for (const values of [{}, { loop: true, repeat: 3 }]) {
      const [there, back] = [plan(walk, values), plan(walk, { ...values, reverse: true })];
      expect(back.end).toBe(there.end);
      for (const f of [0, 1, 7, 20, there.end - 1])
        close(placesAt(there, there.end - 1 - f), placesAt(back, f), 5);
    }
  });

  it('ramped fills as many frames, and begins and ends with the same poses', () => {
    const [even, ramped] = [plan(walk, {}), plan(walk, { speedCurve: [[0.5, 0.2]] })];
    expect(ramped.end).toBe(even.end);
    close(placesAt(even, 0), placesAt(ramped, 0));
    expect(placesAt(ramped, 15)[2]!).toBeLessThan(placesAt(even, 15)[2]! - 0.2);
  });

  it('held stands still before and after', () => {
    const held = plan(walk, { hold: { start: 8, end: 6 } });
    expect(held.end).toBe(31 + 14);
    close(placesAt(held, 0), placesAt(held, 8), 12);
    close(placesAt(held, 38), placesAt(held, 44), 12);
  });
});

describe('travel of a segment', () => {
  it('in place with its facing held turns neither', () => {
    const c = plan(bendy, { travel: 'in place', holdFacing: true });
    const first = poseAt(c, 0).root.slice();
    for (let f = 0; f < 41; f += 5) close(first, poseAt(c, f).root, 9);
    const turning = plan(bendy, { travel: 'in place' });
    expect(poseAt(turning, 40).root[2]! - poseAt(turning, 0).root[2]!).toBeCloseTo(0.8, 2);
  });

  it('straightened goes on without turning, over any number of cycles', () => {
    const bend = plan(bendy, { loop: true, repeat: 6 });
    const straight = plan(bendy, { loop: true, repeat: 6, straighten: true });
    const turn = (c: CharacterPlan): number => poseAt(c, c.end - 1).root[2]! - poseAt(c, 0).root[2]!;
    expect(Math.abs(turn(bend))).toBeGreaterThan(3);
    expect(Math.abs(turn(straight))).toBeLessThan(0.08);
    const length = (c: CharacterPlan): number => {
      let sum = 0;
      for (let f = 1; f < c.end; f++) {
        const [p, q] = [poseAt(c, f - 1).root, poseAt(c, f).root];
        sum += Math.hypot(q[0]! - p[0]!, q[1]! - p[1]!);
      }
      return sum;
    };
    expect(length(straight) / length(bend)).toBeCloseTo(1, 2);
  });

  it('mirrored is the mirrored clip', () => {
    const mirrored = plan(bendy, { mirror: true });
    const other = mirrorClip(bendy);
    const own = compile(sceneOf([segmentOf(other, { id: 'a' })]), libraryOf(other)).characters[0]!;
    for (const f of [0, 13.4, 40]) close(placesAt(own, f), placesAt(mirrored, f), 9);
  });

  it('through marks hits them at their frames, and the next segment goes on from there', () => {
    const marks = [
      { frame: 40, x: 0.3, z: 1.4, heading: 20 },
      { frame: 85, x: 1.2, z: 2.6, heading: 60 },
    ];
    const c = planOf(
      sceneOf([
        segmentOf(walk, { id: 'a', loop: true, repeat: 3, marks }),
        segmentOf(walk, { id: 'b', start: 90, loop: true, repeat: 2 }),
      ]),
    );
    for (const mark of marks) {
      const { root } = poseAt(c, mark.frame);
      expect(root[0]!).toBeCloseTo(mark.x, 9);
      expect(root[1]!).toBeCloseTo(mark.z, 9);
      expect((root[2]! * 180) / Math.PI).toBeCloseTo(mark.heading, 6);
    }
    const [a, b] = [poseAt(c, 89).root.slice(), poseAt(c, 91).root];
    expect(Math.hypot(b[0]! - a[0]!, b[1]! - a[1]!)).toBeLessThan(0.12);
  });

  it('along a path starts where the fit puts it and follows the points', () => {
    const c = plan(walk, {
      loop: true,
      repeat: 4,
      travel: 'path',
      path: [
        [0, 1],
        [1.5, 2.2],
      ],
    });
    close(poseAt(plan(walk, { loop: true, repeat: 4 }), 0).root, poseAt(c, 0).root, 9);
    const nearest = Math.min(
      ...Array.from({ length: c.end }, (_, f) =>
        Math.hypot(poseAt(c, f).root[0]! - 1.5, poseAt(c, f).root[1]! - 2.2),
      ),
    );
    expect(nearest).toBeLessThan(0.08);
  });

  it('pinned stands where it was put, whatever comes before', () => {
    const seam = { ...PLAIN_SEAM, fit: { pin: { x: 3, z: -2, heading: 90 } } };
    for (const repeat of [1, 4]) {
      const c = planOf(
        sceneOf([
          segmentOf(walk, { id: 'a', loop: true, repeat }),
          segmentOf(bendy, { id: 'b', start: 30 * repeat, seam }),
        ]),
      );
      const { root } = poseAt(c, 30 * repeat);
      expect(root[0]!).toBeCloseTo(3, 9);
      expect(root[1]!).toBeCloseTo(-2, 9);
      expect((root[2]! * 180) / Math.PI).toBeCloseTo(90, 6);
    }
  });
});

const layer = (values: Partial<LayerLane>): LayerLane => ({
  ...PLAIN_LAYER,
  id: 'y',
  character: 'c',
  name: 'layer',
  ...values,
});
const layered = (lane: LayerLane, segments: readonly Segment[] = []): CharacterPlan => {
  const base = sceneOf([segmentOf(walk, { id: 'a', loop: true, repeat: 3 })]);
  return planOf({
    ...base,
    lanes: { ...base.lanes, y: { ...lane, segments: segments.map((s) => s.id) } },
    laneOrder: ['l', 'y'],
    segments: { ...base.segments, ...Object.fromEntries(segments.map((s) => [s.id, s])) },
  });
};
const jointOf = (c: CharacterPlan, name: string): number => c.skeleton.names.indexOf(name) * 4;

describe('layers of a performance', () => {
  const plain = plan(walk, { loop: true, repeat: 3 });
  const arm = [{ bone: 'leftUpperArm*', weight: 1 }];

  it('override only their bones, and only while they last', () => {
    const c = layered(layer({ mask: arm }), [segmentOf(bendy, { id: 'x', start: 20 })]);
    const own = plan(bendy, {});
    const [q, o] = [jointOf(c, 'leftUpperArm'), jointOf(c, 'rightUpperArm')];
    expect(quatAngle(poseAt(c, 40).rotations, q, poseAt(own, 20).rotations, q)).toBeLessThan(1e-6);
    expect(quatAngle(poseAt(c, 40).rotations, o, poseAt(plain, 40).rotations, o)).toBeLessThan(1e-6);
    close(poseAt(plain, 70).rotations, poseAt(c, 70).rotations, 9);
  });

  it('additive, taken against a pose that does not differ, change nothing', () => {
    const still = figureClip(20, () => ({ x: 0, z: 0, turn: 0.4, joints: strideJoints(1) }), { id: 'walk' });
    const base = sceneOf([segmentOf(bendy, { id: 'a' })]);
    const c = compile(
      {
        ...base,
        lanes: { ...base.lanes, y: layer({ blend: 'additive', segments: ['x'] }) },
        laneOrder: ['l', 'y'],
        segments: { ...base.segments, x: segmentOf(still, { id: 'x' }) },
      },
      libraryOf(still, bendy),
    ).characters[0]!;
    const own = plan(bendy, {});
    for (const f of [3, 10, 17]) close(placesAt(own, f), placesAt(c, f), 5);
  });

  it('of the whole body keep the place and the heading of what is below', () => {
    const c = layered(layer({}), [segmentOf(bendy, { id: 'x', start: 0, out: 41 })]);
    close(poseAt(plain, 30).root, poseAt(c, 30).root, 9);
  });

  it('come and go with their curve and their fades', () => {
    const weight = [
      [0, 0],
      [20, 1],
      [40, 0],
    ] as const;
    const c = layered(layer({ mask: arm, weight }), [segmentOf(bendy, { id: 'x' })]);
    const q = jointOf(c, 'leftUpperArm');
    const apart = (f: number): number => quatAngle(poseAt(c, f).rotations, q, poseAt(plain, f).rotations, q);
    const whole = layered(layer({ mask: arm }), [segmentOf(bendy, { id: 'x' })]);
    const full = (f: number): number =>
      quatAngle(poseAt(whole, f).rotations, q, poseAt(plain, f).rotations, q);
    expect(apart(0)).toBeLessThan(1e-9);
    expect(apart(10)).toBeCloseTo(full(10) / 2, 5);
    const faded = layered(layer({ mask: arm }), [
      segmentOf(bendy, { id: 'x', start: 10, fade: { in: 6, out: 6 } }),
    ]);
    const late = layered(layer({ mask: arm }), [segmentOf(bendy, { id: 'x', start: 10 })]);
    const by = (c: CharacterPlan, f: number): number =>
      quatAngle(poseAt(c, f).rotations, q, poseAt(plain, f).rotations, q);
    expect(by(late, 10)).toBeGreaterThan(0.05);
    expect(by(faded, 10)).toBeLessThan(by(late, 10) * 0.2);
    expect(quatAngle(poseAt(faded, 30).rotations, q, poseAt(late, 30).rotations, q)).toBeLessThan(1e-9);
    expect(by(faded, 51)).toBeLessThan(1e-9);
  });

  it('keyed, pose a joint', () => {
    const keys = {
      head: [
        {
          frame: 10,
          rotation: [0, Math.sin(0.4), 0, Math.cos(0.4)] as const,
          curve: 'hold' as const,
          tangent: null,
          into: null,
        },
      ],
    };
    const c = layered(layer({ keys }));
    const [q, own] = [jointOf(c, 'head'), Float64Array.of(0, Math.sin(0.4), 0, Math.cos(0.4))];
    expect(quatAngle(poseAt(c, 55).rotations, q, own, 0)).toBeLessThan(1e-9);
    expect(() => layered(layer({ keys: { tail: keys.head } }))).toThrow(/no joint tail/);
  });
});

describe('held feet', () => {
  it('change nothing where they are off, and nothing but legs and hips where they are on', () => {
    const base = sceneOf([segmentOf(walk, { id: 'a', loop: true, repeat: 3 })]);
    const on = planOf({ ...base, characters: { c: { ...base.characters.c!, footLock: true } } });
    const off = planOf(base);
    for (const f of [5, 22.5, 61]) {
      const [a, b] = [poseAt(off, f), poseAt(on, f)];
      on.skeleton.names.forEach((name, j) => {
        if (!/Leg|Foot/.test(name))
          expect(quatAngle(a.rotations, j * 4, b.rotations, j * 4)).toBeLessThan(1e-9);
      });
    }
  });

  it('are held the same whichever frame is asked for first', () => {
    const base = sceneOf([
      segmentOf(walk, { id: 'a', loop: true, repeat: 3 }),
      segmentOf(bendy, { id: 'b', start: 82 }),
    ]);
    const make = (): CharacterPlan =>
      planOf({ ...base, characters: { c: { ...base.characters.c!, footLock: true } } });
    const [forwards, backwards] = [make(), make()];
    const frames = Array.from({ length: 120 }, (_, f) => f);
    const there = frames.map((f) => poseAt(forwards, f));
    const back = [...frames]
      .reverse()
      .map((f) => poseAt(backwards, f))
      .reverse();
    there.forEach((p, f) => expect([...back[f]!.rotations]).toEqual([...p.rotations]));
  });
});

describe('a foot that stands through many segments', () => {
  it('stands on one spot, though every seam moves the body a little', () => {
    const stand = figureClip(30, (f) => ({ x: 0.005 * Math.sin(f * 0.2), z: 0, turn: 0 }), { id: 'stand' });
    const nudge = { ...PLAIN_SEAM, nudge: { x: 0.004, z: 0.002, turn: 0 } };
    const base = sceneOf(
      Array.from({ length: 9 }, (_, i) => segmentOf(stand, { id: `s${i}`, start: i * 22, seam: nudge })),
    );
    const scene = { ...base, characters: { c: { ...base.characters.c!, footLock: true } } };
    const c = compile(scene, libraryOf(stand)).characters[0]!;
    const toes = c.skeleton.names.indexOf('leftToes') * 3;
    const first = placesAt(c, 0).slice(toes, toes + 3);
    for (let f = 1; f < c.end; f += 3) close(first, placesAt(c, f).slice(toes, toes + 3), 6);
  });
});

describe('compiling again', () => {
  it('takes over the segments that an edit did not touch', () => {
    const scene = sceneOf(
      [0, 1, 2, 3].map((i) => segmentOf(i % 2 ? bendy : walk, { id: `s${i}`, start: i * 25 })),
    );
    const compiler = createCompiler(library);
    const first = compiler.compile(scene);
    const moved = {
      ...scene,
      segments: {
        ...scene.segments,
        s2: { ...scene.segments.s2!, seam: { ...PLAIN_SEAM, nudge: { x: 0.2, z: 0, turn: 0 } } },
      },
    };
    const again = compiler.compile(moved);
    const [a, b] = [first.characters[0]!.segments, again.characters[0]!.segments];
    expect(b[0]).toBe(a[0]);
    expect(b[1]).toBe(a[1]);
    expect(b[2]).not.toBe(a[2]);
  });

  it('gives the same as compiling anew, whatever was edited', () => {
    const values = fc.record(
      {
        start: fc.constantFrom(20, 25, 31),
        reverse: fc.boolean(),
        mirror: fc.boolean(),
        straighten: fc.boolean(),
        speed: fc.constantFrom(1, 1.25),
        travel: fc.constantFrom('recorded' as const, 'in place' as const, 'restored' as const),
        hold: fc.constantFrom({ start: 0, end: 0 }, { start: 3, end: 2 }),
        marks: fc.constantFrom([], [{ frame: 12, x: 1, z: 1, heading: 30 }]),
        seam: fc.record({
          fit: fc.constantFrom('whole body' as const, 'planted foot' as const, 'hips' as const, {
            pin: { x: 1, z: 1, heading: 0 },
          }),
          facing: fc.boolean(),
          height: fc.boolean(),
          join: fc.constantFrom<Join>(
            { kind: 'settle', frames: 6 },
            { kind: 'crossfade', curve: 'smooth', inStep: true },
            { kind: 'crossfade', curve: 'smooth', inStep: false },
          ),
          nudge: fc.constantFrom({ x: 0, z: 0, turn: 0 }, { x: 0.1, z: 0, turn: 10 }),
        }),
      },
      { requiredKeys: [] },
    );
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 2 }), values), { minLength: 1, maxLength: 4 }),
        (edits) => {
          let scene = sceneOf(
            [0, 1, 2].map((i) => segmentOf(i % 2 ? bendy : walk, { id: `s${i}`, start: i * 27 })),
          );
          const compiler = createCompiler(library);
          let kept = compiler.compile(scene);
          for (const [i, change] of edits) {
            const id = `s${i}`;
            const start = change.start === undefined ? undefined : i * change.start;
            scene = {
              ...scene,
              segments: {
                ...scene.segments,
                [id]: {
                  ...scene.segments[id]!,
                  ...settingsFrom(change),
                  ...(start === undefined ? {} : { start }),
                },
              },
            };
            kept = compiler.compile(scene);
          }
          const fresh = compile(structuredClone(scene), libraryOf(walk, bendy));
          for (let f = 0; f < fresh.end; f += 4) {
            const [a, b] = [poseAt(fresh.characters[0]!, f), poseAt(kept.characters[0]!, f)];
            close(a.root, b.root, 9);
            close(a.translations, b.translations, 9);
          }
        },
      ),
      { numRuns: 20 },
    );
  });
});

/** A change of settings whose seam is given apart from how it joins. */
function settingsFrom({ seam, ...change }: object & { seam?: { join?: Join } }): Partial<Segment> {
  if (!seam) return change;
  const { join, ...placing } = seam;
  return { ...change, seam: withSeam(PLAIN_SEAM, placing, join) };
}
