import { describe, expect, it } from '@jest/globals';
import type { CharacterPlan, Dial, Dials, LayerLane, Scene, ValueKey } from '@warper/core';
import {
  DIALS,
  PLAIN_LAYER,
  combinedDials,
  compile,
  defined,
  evaluate,
  findSteps,
  jointOfRole,
  makePoseBuffer,
  makeWorldPose,
  parseScene,
  poseToWorld,
} from '@warper/core';
import { rootTrack } from '@warper/core/kernels';
import fc from 'fast-check';
import { skeletonOf } from './build';
import { KEEPER, keeperClips } from './demonstration';
import { dogClips } from './dog';
import { dogSkeleton } from './dogPose';
import { libraryOf, sceneOf, segmentOf } from './testing';

const skeleton = skeletonOf(KEEPER);
const clips = keeperClips(skeleton).map((c) => c.clip);
const named = (name: string) => defined(clips.find((c) => c.name === name));
const [idle, walk, turn] = [named('Idle'), named('Walk'), named('Turn left 90')];
const library = libraryOf(clips, skeleton);

const sceneWith = (clip: typeof idle, dials: Dials, own: Dials = {}): Scene => {
  const base = sceneOf([segmentOf(clip, 'a', { dials })]);
  return { ...base, characters: { c: { ...defined(base.characters.c), dials: own } } };
};
const planOf = (scene: Scene): CharacterPlan => defined(compile(scene, library).characters[0]);
type RoleName = Parameters<typeof jointOfRole>[1];
const worldAt = (plan: CharacterPlan, frame: number) =>
  poseToWorld(
    plan.skeleton,
    evaluate(plan, frame, makePoseBuffer(plan.skeleton)),
    makeWorldPose(plan.skeleton),
  );
const placeAt = (plan: CharacterPlan, frame: number, role: RoleName): number[] => {
  const j = jointOfRole(plan.skeleton, role) * 3;
  return [...worldAt(plan, frame).positions.slice(j, j + 3)];
};
const apart = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(...a.map((v, k) => v - defined(b[k])));
const frames = (clip: typeof idle): number[] => Array.from({ length: clip.frames }, (_, f) => f);

describe('dials', () => {
  it('that are not set leave the very clip', () => {
    const plan = planOf(sceneWith(walk, {}));
    expect(defined(plan.segments[0]).recorded.rotations).toEqual(walk.rotations);
    expect(combinedDials({ lean: 5, arms: 1.2 }, { lean: -5, stance: 0.1 })).toEqual({
      stance: 0.1,
      arms: 1.2,
    });
    expect(combinedDials({ lean: 5 }, { lean: 3, trunk: 0.5 })).toEqual({ lean: 8, trunk: 0.5 });
  });

  it('swing both arms out by what is asked, elbows and hands with them', () => {
    const [plain, clear] = [planOf(sceneWith(idle, {})), planOf(sceneWith(idle, { clearance: 12 }))];
    for (const side of ['left', 'right'] as const) {
      const way = (plan: CharacterPlan): number[] => {
        const [a, b] = [placeAt(plan, 20, `${side}UpperArm`), placeAt(plan, 20, `${side}LowerArm`)];
        return b.map((v, k) => (v - defined(a[k])) / apart(a, b));
      };
      const [p, q] = [way(plain), way(clear)];
      const angle = (Math.acos(p.reduce((sum, v, k) => sum + v * defined(q[k]), 0)) * 180) / Math.PI;
      // An arm that hangs a little forward moves on a cone.
      expect(angle).toBeGreaterThan(11);
      expect(angle).toBeLessThan(12.01);
      const outward = (plan: CharacterPlan): number => Math.abs(defined(placeAt(plan, 20, `${side}Hand`)[0]));
      expect(outward(clear)).toBeGreaterThan(outward(plain) + 0.08);
    }
  });

  it('lower the hips and lean the trunk while every foot stays where it was', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(idle, walk, turn),
        fc.integer({ min: 0, max: 25 }),
        fc.integer({ min: 0, max: 15 }),
        (clip, lean, centimetres) => {
          const dials = { lean, crouch: centimetres / 100 };
          const [plain, set] = [planOf(sceneWith(clip, {})), planOf(sceneWith(clip, dials))];
          for (const f of [0, 7, 13, 22].map((f) => f % clip.frames)) {
            for (const foot of ['leftFoot', 'rightFoot', 'leftToes', 'rightToes'] as const)
              expect(apart(placeAt(plain, f, foot), placeAt(set, f, foot))).toBeLessThan(1e-3);
            const drop = defined(placeAt(plain, f, 'hips')[1]) - defined(placeAt(set, f, 'hips')[1]);
            expect(drop).toBeCloseTo(dials.crouch, 5);
          }
        },
      ),
      { numRuns: 12 },
    );
    const lowered = planOf(sceneWith(idle, { lean: 20 }));
    const ahead = (plan: CharacterPlan): number => defined(placeAt(plan, 10, 'upperChest')[2]);
    expect(ahead(lowered)).toBeGreaterThan(ahead(planOf(sceneWith(idle, {}))) + 0.05);
  });

  it('widen the stance by what is asked, planted feet standing as still as before, in a turn too', () => {
    for (const clip of [walk, turn]) {
      const [plain, wide] = [planOf(sceneWith(clip, {})), planOf(sceneWith(clip, { stance: 0.1 }))];
      const slide = (plan: CharacterPlan): number => {
        let most = 0;
        for (const { joint, spans } of findSteps(clip).joints)
          for (const { start, end } of spans) {
            const role: RoleName = defined(skeleton.roles[joint] ?? undefined);
            const places = frames(clip)
              .filter((f) => f >= start + 2 && f < end - 2)
              .map((f) => placeAt(plan, f, role));
            for (let i = 1; i < places.length; i++)
              most = Math.max(
                most,
                Math.hypot(places[i]![0]! - places[i - 1]![0]!, places[i]![2]! - places[i - 1]![2]!),
              );
          }
        return most;
      };
      expect(slide(wide)).toBeLessThan(slide(plain) + 1.5e-3);
      const gap = (plan: CharacterPlan): number => {
        const root = rootTrack(clip);
        const [a, b] = [placeAt(plan, 12, 'leftFoot'), placeAt(plan, 12, 'rightFoot')];
        const heading = root[12 * 3 + 2]!;
        return (a[0]! - b[0]!) * Math.cos(heading) - (a[2]! - b[2]!) * Math.sin(heading);
      };
      expect(Math.abs(gap(wide) - gap(plain) - 0.1)).toBeLessThan(0.02);
    }
  });

  it('make arms swing more or less about their own mean', () => {
    const swing = (arms: number): number => {
      const plan = planOf(sceneWith(walk, { arms }));
      const ahead = frames(walk).map((f) => {
        const [hand, hips] = [placeAt(plan, f, 'leftHand'), placeAt(plan, f, 'hips')];
        return hand[2]! - hips[2]!;
      });
      return Math.max(...ahead) - Math.min(...ahead);
    };
    expect(swing(1.4) / swing(1)).toBeGreaterThan(1.2);
    expect(swing(0.5) / swing(1)).toBeLessThan(0.7);
    expect(swing(0)).toBeLessThan(0.12);
  });

  it('of a character come on top of those of its segments', () => {
    const both = planOf(sceneWith(idle, { crouch: 0.05 }, { crouch: 0.04 }));
    const drop =
      defined(placeAt(planOf(sceneWith(idle, {})), 5, 'hips')[1]) - defined(placeAt(both, 5, 'hips')[1]);
    expect(drop).toBeCloseTo(0.09, 5);
  });

  it('lower a body on four legs onto all of them', () => {
    const dog = dogSkeleton();
    const stand = defined(dogClips(dog).find((c) => c.clip.name.includes('stand'))).clip;
    const own = libraryOf([stand], dog);
    const at = (dials: Dials): CharacterPlan =>
      defined(compile(sceneOf([segmentOf(stand, 'a', { dials })]), own).characters[0]);
    const [plain, low] = [at({}), at({ crouch: 0.06 })];
    for (const foot of ['leftFoot', 'rightFoot', 'leftFrontPaw', 'rightFrontPaw'] as const)
      expect(apart(placeAt(plain, 3, foot), placeAt(low, 3, foot))).toBeLessThan(2e-3);
    expect(defined(placeAt(plain, 3, 'chest')[1]) - defined(placeAt(low, 3, 'chest')[1])).toBeCloseTo(
      0.06,
      4,
    );
  });

  describe('keyed on a layer', () => {
    const key = (frame: number, value: number): ValueKey => ({
      frame,
      value,
      curve: 'linear',
      tangent: null,
      into: null,
    });
    const keyed = (clip: typeof idle, dialKeys: LayerLane['dialKeys'], values: Partial<LayerLane> = {}) => {
      const base = sceneWith(clip, {});
      const lane: LayerLane = { ...PLAIN_LAYER, id: 'y', character: 'c', name: 'bow', dialKeys, ...values };
      return { ...base, lanes: { ...base.lanes, y: lane }, laneOrder: ['l', 'y'] };
    };

    it('do what the same dials of the clip do, each of them, wherever the body stands', () => {
      const all: readonly Dials[] = [
        { clearance: 15 },
        { lean: 20 },
        { crouch: 0.08 },
        { arms: 1.3 },
        { trunk: 0.6 },
      ];
      for (const clip of [idle, walk])
        for (const dials of all) {
          const [[dial, value]] = Object.entries(dials) as [[Dial, number]];
          const [layered, set] = [
            planOf(keyed(clip, { [dial]: [key(0, value)] })),
            planOf(sceneWith(clip, dials)),
          ];
          for (const role of ['hips', 'head', 'leftHand', 'rightFoot', 'leftLowerLeg'] as const)
            for (const f of [0, 9, 20])
              expect(apart(placeAt(layered, f, role), placeAt(set, f, role))).toBeLessThan(1e-4);
        }
    });

    it('go from key to key and with the weight of the layer, and change nothing at their plain values, to the bit', () => {
      const height = (scene: Scene, f: number): number => defined(placeAt(planOf(scene), f, 'hips')[1]);
      const plain = sceneWith(idle, {});
      const scene = keyed(idle, { crouch: [key(0, 0), key(20, 0.1)] });
      expect(height(plain, 10) - height(scene, 10)).toBeCloseTo(0.05, 5);
      expect(height(plain, 30) - height(scene, 30)).toBeCloseTo(0.1, 5);
      const half = keyed(idle, { crouch: [key(0, 0.1)] }, { weight: [[0, 0.5]] });
      expect(height(plain, 10) - height(half, 10)).toBeCloseTo(0.05, 5);
      const none = keyed(walk, { lean: [key(0, 0)], arms: [key(0, 1)], stance: [key(0, 0)] });
      const pose = (s: Scene) => [...evaluate(planOf(s), 11.5, makePoseBuffer(skeleton)).rotations];
      expect(pose(none)).toEqual(pose(sceneWith(walk, {})));
    });

    it('widen the stance with feet that stand as still as before, in a turn too', () => {
      for (const clip of [walk, turn]) {
        const [plain, wide] = [planOf(sceneWith(clip, {})), planOf(keyed(clip, { stance: [key(0, 0.1)] }))];
        for (const { joint, spans } of findSteps(clip).joints)
          for (const { start, end } of spans) {
            const role: RoleName = defined(skeleton.roles[joint] ?? undefined);
            const path = (plan: CharacterPlan): number[][] =>
              frames(clip)
                .filter((f) => f >= start + 2 && f < end - 2)
                .map((f) => placeAt(plan, f, role));
            const slid = (plan: CharacterPlan): number => {
              const places = path(plan);
              const [first] = places;
              return first
                ? Math.max(...places.map((p) => Math.hypot(p[0]! - first[0]!, p[2]! - first[2]!)))
                : 0;
            };
            expect(slid(wide)).toBeLessThan(slid(plain) + 5e-3);
          }
      }
      const gap = (plan: CharacterPlan): number =>
        defined(placeAt(plan, 12, 'leftFoot')[0]) - defined(placeAt(plan, 12, 'rightFoot')[0]);
      expect(
        gap(planOf(keyed(walk, { stance: [key(0, 0.1)] }))) - gap(planOf(sceneWith(walk, {}))),
      ).toBeCloseTo(0.1, 1);
    });

    it('are held within their limits, also between keys', () => {
      const free = { curve: 'free', into: null } as const;
      const steep: ValueKey[] = [
        { ...free, frame: 0, value: 60, tangent: 40 },
        { ...free, frame: 20, value: 60, tangent: -40 },
      ];
      const lean = (dialKeys: LayerLane['dialKeys']): number[] =>
        placeAt(planOf(keyed(idle, dialKeys)), 10, 'head');
      expect(apart(lean({ lean: steep }), lean({ lean: [key(0, 60)] }))).toBeLessThan(1e-9);
    });
  });

  it('have limits, beyond which a scene is refused', () => {
    for (const [dial, { most }] of Object.entries(DIALS))
      expect(() => parseScene(JSON.parse(JSON.stringify(sceneWith(idle, { [dial]: most + 1 }))))).toThrow(
        dial,
      );
  });
});
