import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { compile, createCompiler } from '../compile/compile';
import { bakeCamera } from '../bake/bakeCamera';
import { makePoseBuffer } from '../clip/pose';
import { applyEdit } from '../edit/edit';
import { evaluate } from '../footlock/evaluate';
import { minimumJerk } from '../math/curve';
import { defined } from '../math/defined';
import { quatAngle } from '../math/quaternion';
import type { Plan } from '../plan/plan';
import { cameraValuesAt, removalOfFilmed, retargetedCamera } from '../posing/cameraEdits';
import type { Camera } from '../scene/camera';
import { PLAIN_CAMERA } from '../scene/camera';
import type { Scene } from '../scene/scene';
import { shotOf } from '../testing/cameraExamples';
import { jointAt, stagedLibrary, stagedScene } from '../testing/staged';
import { cameraAim, cameraAt } from './cameraMotion';
import type { CameraPose } from './cameraPose';
import { makeCameraPose } from './cameraPose';
import { throughSpans } from './keepInFrame';
import { lineCrossings, placeInPicture } from './lineCrossings';
import { shotIndexAt, shotPoseAt } from './shots';

const camera = (id: string, values: Partial<Camera> = {}): Camera => ({
  ...PLAIN_CAMERA,
  id,
  name: id,
  ...values,
});

/** The scene of two who stroll, with cameras and shots. */
function filmedPlan(cameras: readonly Camera[], values: Partial<Scene> = {}): Plan {
  return compile(
    {
      ...stagedScene(),
      cameras: Object.fromEntries(cameras.map((c) => [c.id, c])),
      cameraOrder: cameras.map((c) => c.id),
      ...values,
    },
    stagedLibrary,
  );
}

const poseAt = (plan: Plan, frame: number, index = 0): CameraPose =>
  cameraAt(plan, defined(plan.filming.cameras[index]), frame, makeCameraPose());
const places = (plan: Plan, frame: number, index = 0): number[] => [...poseAt(plan, frame, index).place];
const keeper = (plan: Plan, joint: string, frame: number): number[] =>
  jointAt(defined(plan.characters[0]), joint, frame).slice(0, 3);
const smooth = { curve: 'smooth', tangent: null, into: null } as const;
/** An aim that goes round the camera twice. */
const orbit = Object.fromEntries(
  (['aimX', 'aimZ'] as const).map((curve, k) => [
    curve,
    Array.from({ length: 81 }, (_, f) => ({
      frame: f,
      value: 5 * (k === 0 ? Math.sin : Math.cos)((f * 4 * Math.PI) / 80),
      ...smooth,
    })),
  ]),
);
const follow = { character: 'c', joint: 'hips', lag: 0, height: true, turns: false };
const near = (a: readonly number[], b: readonly number[], least: number): void =>
  a.forEach((v, k) => expect(Math.abs(v - defined(b[k]))).toBeLessThan(least));

describe('a camera', () => {
  it('stands and looks as its keys say, and holds its first and last', () => {
    const plan = filmedPlan([
      camera('a', {
        keys: {
          x: [
            { frame: 10, value: 0, ...smooth },
            { frame: 30, value: 4, ...smooth },
          ],
        },
      }),
    ]);
    expect([0, 10, 20, 30, 80].map((f) => places(plan, f)[0])).toEqual([0, 0, 2, 4, 4]);
    expect(cameraAim(plan, defined(plan.filming.cameras[0]), 20)).toEqual([0, 1, 0]);
  });

  it('keeps its distance to whom it follows, and has whom it looks at in the middle', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 89 }), fc.boolean(), (frame, turns) => {
        const base = { ...PLAIN_CAMERA.base, x: 1, y: 0.2, z: -3, aimX: 0, aimY: 0, aimZ: 0 };
        const plan = filmedPlan([
          camera('a', {
            base,
            follow: { ...follow, turns },
            look: { character: 'c', joint: 'head', lag: 0 },
          }),
        ]);
        const pose = poseAt(plan, frame);
        const hips = keeper(plan, 'hips', frame);
        const off = [0, 1, 2].map((k) => pose.place[k]! - hips[k]!);
        expect(Math.hypot(...off)).toBeCloseTo(Math.hypot(1, 0.2, 3), 6);
        expect(off[1]).toBeCloseTo(0.2, 6);
        if (!turns) near(off, [1, 0.2, -3], 1e-6);
        near(defined(placeInPicture(pose, keeper(plan, 'head', frame), 16 / 9)), [0, 0], 1e-6);
      }),
    );
  });

  it('with turns stays behind whoever turns', () => {
    const base = { ...PLAIN_CAMERA.base, x: 0, y: 1, z: -3 };
    const plan = filmedPlan([
      camera('a', { base, follow: { ...follow, joint: null, height: false, turns: true } }),
    ]);
    for (const frame of [0, 40, 80]) {
      const root = rootOf(plan, frame);
      const [x = 0, z = 0, heading = 0] = root;
      near(places(plan, frame), [x - 3 * Math.sin(heading), 1, z - 3 * Math.cos(heading)], 1e-6);
    }
  });

  it('keeps a figure within a part of its picture at every frame, however it moves', () => {
    fc.assert(
      fc.property(
        fc.record({
          left: fc.double({ min: 0, max: 0.4, noNaN: true }),
          width: fc.double({ min: 0.3, max: 0.6, noNaN: true }),
          bottom: fc.double({ min: 0, max: 0.3, noNaN: true }),
          height: fc.double({ min: 0.5, max: 0.7, noNaN: true }),
          lens: fc.integer({ min: 24, max: 135 }),
          seed: fc.nat(1000),
        }),
        ({ left, width, bottom, height, lens, seed }) => {
          const box = { left, right: left + width, bottom, top: bottom + height };
          const plan = filmedPlan([
            camera('a', {
              base: { ...PLAIN_CAMERA.base, x: 3, y: 1.4, z: 5, lens },
              hand: { turn: 1, sway: 0.03, frequency: 1, seed },
              keep: { character: 'c', ...box, widens: true },
            }),
          ]);
          const own = defined(plan.characters[0]);
          const shares = [box.left, box.right, box.bottom, box.top].map((v) => 2 * v - 1);
          for (let frame = 0; frame < 90; frame += 7)
            for (const joint of own.skeleton.names) {
              const [x, y] = defined(placeInPicture(poseAt(plan, frame), keeper(plan, joint, frame), 16 / 9));
              expect(x).toBeGreaterThan(shares[0]! - 0.002);
              expect(x).toBeLessThan(shares[1]! + 0.002);
              expect(y).toBeGreaterThan(shares[2]! - 0.002);
              expect(y).toBeLessThan(shares[3]! + 0.002);
            }
        },
      ),
      { numRuns: 25 },
    );
  });

  it('that has the figure where it is to be does not turn for it', () => {
    const base = { ...PLAIN_CAMERA.base, x: 12, y: 1, z: 12, aimX: 0.5, aimZ: 0.8, lens: 24 };
    const plain = filmedPlan([camera('a', { base })]);
    const keep = { character: 'c', left: 0, right: 1, bottom: 0, top: 1, widens: true };
    const kept = filmedPlan([camera('a', { base, keep })]);
    for (const frame of [0, 45, 89])
      expect(quatAngle(poseAt(plain, frame).rotation, 0, poseAt(kept, frame).rotation, 0)).toBe(0);
  });

  it('that must turn for a moment comes to it and leaves it smoothly, and does not turn at other times', () => {
    const frames = 600;
    const least = new Float64Array(frames).fill(-1);
    const most = new Float64Array(frames).fill(2);
    for (let f = 290; f < 310; f++) least[f] = 1;
    const turned = throughSpans(least, most, 4.5);
    turned.forEach((v, f) => {
      expect(v).toBeGreaterThanOrEqual(least[f]!);
      expect(v).toBeLessThan(1.2);
      if (Math.abs(f - 300) > 100) expect(Math.abs(v)).toBeLessThan(0.005);
    });
    // In little more than a second to a turn of 1, without a corner.
    for (let f = 1; f + 1 < frames; f++)
      expect(Math.abs(turned[f - 1]! - 2 * turned[f]! + turned[f + 1]!)).toBeLessThan(0.015);
  });

  it('is the same from a compiler that has made other plans before, to the bit', () => {
    const cameras = [camera('a', { follow, look: { character: 'v', joint: 'head', lag: 0.3 } })];
    const scene: Scene = {
      ...stagedScene(),
      cameras: { a: cameras[0]! },
      cameraOrder: ['a'],
    };
    const compiler = createCompiler(stagedLibrary);
    poseAt(compiler.compile(scene), 50);
    const moved = applyEdit(scene, { type: 'move', segment: 'va', start: 12 }, stagedLibrary);
    const [own, fresh] = [compiler.compile(moved), compile(moved, stagedLibrary)];
    for (const frame of [0, 33.25, 80]) {
      expect(poseAt(own, frame)).toEqual(poseAt(fresh, frame));
    }
    expect(poseAt(own, 50)).not.toEqual(poseAt(compiler.compile(scene), 50));
  });

  it('that is to go along with somebody else stands at its keys where it stood', () => {
    fc.assert(
      fc.property(
        fc.boolean(),
        fc.boolean(),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (turns, height, lag) => {
          const one = camera('a', {
            keys: {
              x: [
                { frame: 10, value: 2, ...smooth },
                { frame: 60, value: -3, ...smooth },
              ],
              y: [{ frame: 30, value: 2.5, ...smooth }],
            },
          });
          const plan = filmedPlan([one]);
          const stands = [10, 30, 60].map((f) => [...places(plan, f), ...cameraAim(plan, one, f)]);
          const to = { follow: { ...follow, turns, height, lag }, look: null };
          const following = { ...one, ...retargetedCamera(plan, one, 10, to) };
          const next = filmedPlan([following]);
          [10, 30, 60].forEach((f, i) => near([...places(next, f)], stands[i]!.slice(0, 3), 1e-6));
          near(cameraAim(next, following, 10), stands[0]!.slice(3), 1e-6);
          const back = {
            ...following,
            ...retargetedCamera(next, following, 10, { follow: null, look: null }),
          };
          const again = filmedPlan([back]);
          [10, 30, 60].forEach((f, i) => near([...places(again, f)], stands[i]!.slice(0, 3), 1e-6));
        },
      ),
      { numRuns: 30 },
    );
  });

  it('is baked with rotations each of which is the nearer of its two signs, as it stands at each of its times', () => {
    const plan = filmedPlan([
      camera('a', { follow: { ...follow, turns: true }, look: { character: 'v', joint: 'head', lag: 0 } }),
    ]);
    const own = defined(plan.filming.cameras[0]);
    const { frames, places, rotations } = bakeCamera(plan, own, { from: 5, to: 80 }, 24);
    expect(frames).toBe(60);
    const turning = { ...own, follow: null, look: null, base: { ...own.base, x: 0, z: 0 }, keys: orbit };
    for (const [q, count] of [
      [rotations, 60],
      [bakeCamera(filmedPlan([turning]), turning, { from: 0, to: 80 }).rotations, 80],
    ] as const)
      for (let f = 1; f < count; f++) {
        const dot = [0, 1, 2, 3].reduce((sum, k) => sum + q[f * 4 + k]! * q[f * 4 - 4 + k]!, 0);
        expect(dot).toBeGreaterThan(0.5);
      }
    for (const f of [0, 17, 59]) {
      const pose = cameraAt(plan, own, 5 + (f * 30) / 24, makeCameraPose());
      near([...places.subarray(f * 3, f * 3 + 3)], [...pose.place], 1e-5);
      expect(quatAngle(rotations, f * 4, pose.rotation, 0)).toBeLessThan(1e-5);
    }
  });

  it('stays where it stands when whom it followed and looked at is removed', () => {
    const one = camera('a', {
      follow: { ...follow, turns: true },
      look: { character: 'c', joint: 'head', lag: 0 },
    });
    const scene: Scene = { ...stagedScene(), cameras: { a: one }, cameraOrder: ['a'] };
    const plan = compile(scene, stagedLibrary);
    const left = applyEdit(scene, removalOfFilmed(plan, 'c', 40), stagedLibrary);
    const after = compile(left, stagedLibrary);
    for (const frame of [0, 40, 80]) near(places(after, frame), places(plan, 40), 1e-6);
    near(cameraAim(after, defined(left.cameras.a), 0), cameraAim(plan, one, 40), 1e-6);
    expect(removalOfFilmed(plan, 'v', 40)).toEqual({ type: 'remove character', character: 'v' });
  });

  it('is given the curves with which it stands where it is asked to', () => {
    const one = camera('a', {
      follow: { ...follow, turns: true, lag: 0.4 },
      look: { character: 'v', joint: 'head', lag: 0.2 },
    });
    const plan = filmedPlan([one]);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 89 }), (frame) => {
        const values = cameraValuesAt(plan, one, frame, { place: [3, 2, 1], aim: [0, 1, -1] });
        const moved = filmedPlan([{ ...one, base: { ...one.base, ...values } }]);
        near(places(moved, frame), [3, 2, 1], 1e-9);
        near(cameraAim(moved, defined(moved.filming.cameras[0]), frame), [0, 1, -1], 1e-9);
      }),
    );
    const path = camera('b', {
      path: [
        [0, 0],
        [4, 0],
        [4, 4],
      ],
    });
    const { along } = cameraValuesAt(filmedPlan([path]), path, 0, { place: [4, 1, 0], aim: [0, 0, 0] });
    expect(along).toBeCloseTo(0.5, 1);
  });
});

function rootOf(plan: Plan, frame: number): number[] {
  const own = defined(plan.characters[0]);
  const { root } = evaluate(own, frame, makePoseBuffer(own.skeleton));
  return [...root];
}

describe('shots', () => {
  const cameras = [
    camera('a', { base: { ...PLAIN_CAMERA.base, x: 5, z: 2, lens: 24 } }),
    camera('b', { base: { ...PLAIN_CAMERA.base, x: -5, z: 1, lens: 85 } }),
  ];
  const shots = { 1: shotOf('1', 'a', 10, 30), 2: shotOf('2', 'b', 30, 60, 8), 3: shotOf('3', 'a', 70, 90) };
  const plan = filmedPlan(cameras, { shots });

  it('are seen one after the other, each also in the gap after it, and the first before all', () => {
    expect([-5, 9, 10, 29, 30, 65, 70, 500].map((f) => shotIndexAt(plan.filming.shots, f))).toEqual([
      0, 0, 0, 0, 1, 1, 2, 2,
    ]);
    expect(shotIndexAt([], 5)).toBe(-1);
    expect(shotPoseAt(filmedPlan(cameras), 5, makeCameraPose())).toBeNull();
  });

  it('cut from one frame to the next, or go over to their camera within their blend', () => {
    const seen = (frame: number): CameraPose => {
      const pose = makeCameraPose();
      shotPoseAt(plan, frame, pose);
      return pose;
    };
    expect(seen(70)).toEqual(poseAt(plan, 70, 0));
    expect(seen(69)).toEqual(poseAt(plan, 69, 1));
    expect(seen(29)).toEqual(poseAt(plan, 29, 0));
    expect(seen(38)).toEqual(poseAt(plan, 38, 1));
    for (let i = 1; i <= 8; i++) {
      const u = minimumJerk(i / 9);
      const { place, lens } = seen(29 + i);
      near([...place], [5 - 10 * u, 1.6, 2 - u], 1e-9);
      expect(lens).toBeCloseTo(24 + 61 * u, 9);
    }
  });

  it('that cross the line between two who are seen are told', () => {
    const two = [
      camera('near', { base: { ...PLAIN_CAMERA.base, x: 6, y: 1.2, z: 0, aimX: -0.5, aimZ: 0.5, lens: 18 } }),
      camera('same', { base: { ...PLAIN_CAMERA.base, x: 7, y: 1.2, z: 2, aimX: -0.5, aimZ: 0.5, lens: 18 } }),
      camera('far', { base: { ...PLAIN_CAMERA.base, x: -8, y: 1.2, z: 0, aimX: -0.5, aimZ: 0.5, lens: 18 } }),
      camera('above', {
        base: { ...PLAIN_CAMERA.base, x: -3, y: 12, z: 0, aimX: -0.5, aimZ: 0.5, lens: 18 },
      }),
      camera('away', { base: { ...PLAIN_CAMERA.base, x: -8, y: 1.2, z: 0, aimX: -20, aimZ: 0.5, lens: 18 } }),
    ];
    const of = (first: string, second: string, blend = 0): unknown =>
      lineCrossings(
        filmedPlan(two, { shots: { 1: shotOf('1', first, 0, 5), 2: shotOf('2', second, 5, 90, blend) } }),
      );
    expect(of('near', 'far')).toEqual([{ shot: '2', frame: 5, between: ['c', 'v'] }]);
    expect(of('near', 'same')).toEqual([]);
    expect(of('near', 'away')).toEqual([]);
    expect(of('near', 'far', 3)).toEqual([]);
    expect(of('near', 'above')).toEqual([]);
  });
});
