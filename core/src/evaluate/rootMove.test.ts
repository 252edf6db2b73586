import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { compile } from '../compile/compile';
import { evaluate } from '../footlock/evaluate';
import { shortestTurn } from '../math/floorMove';
import type { CharacterPlan } from '../plan/plan';
import type { ValueKey } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import { PLAIN_LAYER } from '../scene/lane';
import { jointOfRole } from '../skeleton/skeleton';
import { evenly } from '../testing/evenly';
import { figureClip, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';

const walk = figureClip(
  61,
  (f) => ({ x: 0, z: 0.04 * f, turn: 0, joints: strideJoints((2 * Math.PI * f) / 30) }),
  { id: 'walk' },
);
const bend = figureClip(
  61,
  (f) => ({ x: 0.01 * f, z: 0.03 * f, turn: 0.02 * f, joints: strideJoints((2 * Math.PI * f) / 30) }),
  { id: 'bend' },
);
const crouch = {
  leftUpperLeg: [-0.5, 0, 0],
  rightUpperLeg: [-0.5, 0, 0],
  leftLowerLeg: [1, 0, 0],
  rightLowerLeg: [1, 0, 0],
} as const;
const stand = figureClip(91, () => ({ x: 0, y: 0.83, z: 0, turn: 0, joints: crouch }), { id: 'stand' });
const library = libraryOf(walk, stand, bend);

const key = (frame: number, value: number): ValueKey => ({
  frame,
  value,
  curve: 'flat',
  tangent: null,
  into: null,
});
const layer = (rootKeys: LayerLane['rootKeys'], values: Partial<LayerLane> = {}): LayerLane => ({
  ...PLAIN_LAYER,
  id: 'y',
  character: 'c',
  name: 'push',
  rootFeet: 'slide',
  ...values,
  rootKeys,
});
/** A walk and one behind it, under layers. */
const planOf = (layers: readonly LayerLane[], clip = walk, heading = 0): CharacterPlan => {
  const base = sceneOf(
    [segmentOf(clip, { id: 'a' }), segmentOf(walk, { id: 'b', start: clip.frames - 8 })],
    30,
    { x: 1, z: 2, heading },
  );
  return compile(
    {
      ...base,
      lanes: { ...base.lanes, ...Object.fromEntries(layers.map((l) => [l.id, l])) },
      laneOrder: ['l', ...layers.map((l) => l.id)],
    },
    library,
  ).characters[0]!;
};
const rootOf = (plan: CharacterPlan, frame: number): [number, number, number] => {
  const { root } = evaluate(plan, frame, makePoseBuffer(plan.skeleton));
  return [root[0]!, root[1]!, root[2]!];
};
const placesOf = (plan: CharacterPlan, frame: number): Float64Array => {
  const pose = evaluate(plan, frame, makePoseBuffer(plan.skeleton));
  return poseToWorld(plan.skeleton, pose, makeWorldPose(plan.skeleton)).positions.slice();
};
const change = (from: number, to: number, value: number): ValueKey[] => [key(from, 0), key(to, value)];

describe('keys of the root', () => {
  it('move the whole body left, up and forward as it faced at the first of them, and turn it about where it is', () => {
    fc.assert(
      fc.property(
        evenly(-1, 1),
        evenly(-0.5, 0.5),
        evenly(-1, 1),
        evenly(-170, 170),
        evenly(-180, 180),
        (left, up, forward, turn, heading) => {
          const keys = {
            left: change(10, 30, left),
            up: change(10, 30, up),
            forward: change(10, 30, forward),
            turn: change(10, 30, turn),
          };
          const [plain, moved] = [planOf([], bend, heading), planOf([layer(keys)], bend, heading)];
          const h = rootOf(plain, 10)[2];
          const [x, z, to] = rootOf(plain, 30);
          const [mx, mz, mto] = rootOf(moved, 30);
          expect(mx - x).toBeCloseTo(left * Math.cos(h) + forward * Math.sin(h), 6);
          expect(mz - z).toBeCloseTo(forward * Math.cos(h) - left * Math.sin(h), 6);
          expect(shortestTurn(mto - to - (turn * Math.PI) / 180)).toBeCloseTo(0, 6);
          const hips = plain.skeleton.rootBone * 3 + 1;
          expect(placesOf(moved, 30)[hips]! - placesOf(plain, 30)[hips]!).toBeCloseTo(up, 6);
          expect([...placesOf(moved, 9)]).toEqual([...placesOf(plain, 9)]);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('carry what follows along as one, also behind their span, or let go of it', () => {
    const keys = { forward: change(20, 30, -0.4), turn: change(20, 30, 50) };
    const span = { start: 15, end: 50, fadeIn: 0, fadeOut: 6 };
    const plain = planOf([]);
    const apart = (plan: CharacterPlan, f: number, g: number): number => {
      const [a, b] = [placesOf(plan, f), placesOf(plan, g)];
      return Math.hypot(...[0, 1, 2].map((k) => a[k]! - b[k]!));
    };
    const carried = planOf([layer(keys, { span })]);
    for (const [f, g] of [
      [30, 45],
      [45, 70],
      [52, 100],
    ] as const)
      expect(apart(carried, f, g)).toBeCloseTo(apart(plain, f, g), 9);
    expect(shortestTurn(rootOf(carried, 100)[2] - rootOf(plain, 100)[2])).toBeCloseTo(
      (50 * Math.PI) / 180,
      9,
    );
    const left = planOf([layer(keys, { span, carriesOn: false })]);
    expect(rootOf(left, 40)[2] - rootOf(plain, 40)[2]).toBeCloseTo((50 * Math.PI) / 180, 9);
    for (const f of [50, 70, 100]) expect([...placesOf(left, f)]).toEqual([...placesOf(plain, f)]);
  });

  it('go by the weight of their layer, and lie over each other', () => {
    const half = planOf([layer({ forward: change(10, 20, 1) }, { weight: [[0, 0.5]] })]);
    expect(rootOf(half, 20)[1] - rootOf(planOf([]), 20)[1]).toBeCloseTo(0.5, 9);
    const both = planOf([
      layer({ turn: change(5, 6, 90) }),
      { ...layer({ forward: change(10, 20, 1) }), id: 'z' },
    ]);
    const turned = planOf([layer({ turn: change(5, 6, 90) })]);
    const [x, z] = rootOf(both, 20);
    const [tx, tz] = rootOf(turned, 20);
    expect([x - tx, z - tz].map((v) => v.toFixed(6))).toEqual(['1.000000', '0.000000'].map((v) => v));
  });

  const footMoves = (plan: CharacterPlan, role: 'leftFoot' | 'rightFoot'): number[] => {
    const joint = jointOfRole(plan.skeleton, role) * 3;
    return Array.from({ length: 80 }, (_, f) => {
      const [a, b] = [placesOf(plan, f), placesOf(plan, f + 1)];
      return Math.hypot(a[joint]! - b[joint]!, a[joint + 2]! - b[joint + 2]!);
    });
  };

  it('push a standing body back, whose feet slide, stay, or step after it', () => {
    const pushed = (rootFeet: LayerLane['rootFeet']): CharacterPlan =>
      planOf([layer({ forward: change(20, 28, -0.4) }, { rootFeet })], stand);
    for (const role of ['leftFoot', 'rightFoot'] as const) {
      const slide = footMoves(pushed('slide'), role);
      expect(slide.slice(0, 60).reduce((a, b) => a + b)).toBeCloseTo(0.4, 6);
      const steps = footMoves(pushed('step'), role);
      const moving = steps.slice(0, 60).flatMap((v, f) => (v > 1e-3 ? [f] : []));
      // One swing, then it stands.
      expect(moving.length).toBeGreaterThanOrEqual(5);
      expect(moving.at(-1)! - moving[0]!).toBeLessThan(14);
      expect(steps.slice(moving.at(-1)! + 1, 70).every((v) => v < 1e-3)).toBe(true);
    }
    expect(rootOf(pushed('step'), 60)[1]).toBeCloseTo(2 - 0.4, 6);
  });
});
