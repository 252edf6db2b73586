import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { compile } from '../compile/compile';
import { evaluate } from '../footlock/evaluate';
import { quatAngle, quatFromAxis } from '../math/quaternion';
import type { CharacterPlan } from '../plan/plan';
import type { LayerLane } from '../scene/lane';
import { PLAIN_LAYER } from '../scene/lane';
import type { Scene } from '../scene/scene';
import { jointOfRole, makeSkeleton } from '../skeleton/skeleton';
import { evenly } from '../testing/evenly';
import { figureClip, figureSkeleton, strideJoints } from '../testing/figure';
import { libraryOf, sceneOf, segmentOf } from '../testing/scenes';
import { applyEdit } from '../edit/edit';
import { limbEndingAt } from '../skeleton/limbs';
import { poseEdit, reachedPose, turnedPose } from './posing';

/** The small person with hands. */
const body = figureSkeleton();
const handed = makeSkeleton({
  names: [...body.names, 'leftHand', 'rightHand'],
  parents: [...body.parents, ...['leftLowerArm', 'rightLowerArm'].map((name) => body.names.indexOf(name))],
  restTranslations: [...body.restTranslations, 0.26, 0, 0, -0.26, 0, 0],
});
const walk = figureClip(
  61,
  (f) => ({ x: 0, z: 0.03 * f, turn: 0.02 * f, joints: strideJoints((2 * Math.PI * f) / 30) }),
  { id: 'walk', skeleton: handed },
);
const library = libraryOf(walk);
const FRAME = 22;
const sceneWith = (values: Partial<LayerLane>): Scene => {
  const base = sceneOf([segmentOf(walk, { id: 'a' })]);
  const layer = { ...PLAIN_LAYER, id: 'y', character: 'c', name: 'pose', ...values };
  return { ...base, lanes: { ...base.lanes, y: layer }, laneOrder: ['l', 'y'] };
};
const planOf = (scene: Scene): CharacterPlan => compile(scene, library).characters[0]!;
const posesOf = (plan: CharacterPlan, frame = FRAME) => {
  const pose = evaluate(plan, frame, makePoseBuffer(plan.skeleton));
  const world = poseToWorld(plan.skeleton, pose, makeWorldPose(plan.skeleton));
  return { rotations: pose.rotations.slice(), places: world.positions.slice() };
};
const layerOf = (scene: Scene): LayerLane => scene.lanes.y as LayerLane;
const layers = fc.record({
  blend: fc.constantFrom('override' as const, 'additive' as const),
  weight: evenly(0.3, 1).map((w) => [[0, w] as const]),
  keys: fc.constantFrom<LayerLane['keys']>(
    {},
    {
      leftUpperArm: [
        { frame: 10, rotation: [0.2, 0, 0, Math.sqrt(0.96)], curve: 'smooth', tangent: null, into: null },
      ],
    },
  ),
});
/** A turn about any axis by up to 20 degrees: a joint that weighs less than a third of it cannot be turned much further. */
const turn = fc
  .tuple(evenly(-1, 1), evenly(-1, 1), evenly(-1, 1), evenly(-Math.PI / 9, Math.PI / 9))
  .filter(([x, y, z]) => Math.hypot(x, y, z) > 0.2)
  .map(([x, y, z, angle]) => {
    const length = Math.hypot(x, y, z);
    const out = new Float64Array(4);
    return quatFromAxis(x / length, y / length, z / length, angle, out, 0) as Float64Array;
  });

describe('a pose by hand', () => {
  it('is what is shown at its frame, whatever the layer’s blend, weight and keys', () => {
    fc.assert(
      fc.property(layers, turn, fc.constantFrom('leftUpperArm', 'head', 'hips'), (values, by, name) => {
        const scene = sceneWith(values);
        const plan = planOf(scene);
        const joint = plan.skeleton.names.indexOf(name);
        const posed = turnedPose(plan, FRAME, joint, by);
        const after = planOf(applyEdit(scene, poseEdit(plan, layerOf(scene), FRAME, [posed]), library));
        expect(quatAngle(posesOf(after).rotations, joint * 4, posed.rotation, 0)).toBeLessThan(1e-6);
      }),
      { numRuns: 60 },
    );
  });

  it('reaches the place that a hand or a foot is brought to within 0.1 mm, and leaves the rest', () => {
    fc.assert(
      fc.property(
        // A limb that is bent far takes more than a light layer can give.
        layers.map((l) => ({ ...l, weight: l.weight.map(([f, w]) => [f, 0.6 + 0.4 * w] as const) })),
        fc.constantFrom('leftHand' as const, 'rightHand' as const, 'leftFoot' as const),
        fc.tuple(evenly(-0.1, 0.1), evenly(-0.1, 0.1), evenly(-0.1, 0.1)),
        (values, role, by) => {
          const scene = sceneWith(values);
          const plan = planOf(scene);
          const end = jointOfRole(plan.skeleton, role);
          const limb = limbEndingAt(plan.skeleton, end)!;
          const before = posesOf(plan);
          const length = (a: number, b: number, p: Float64Array): number =>
            Math.hypot(...[0, 1, 2].map((k) => p[a * 3 + k]! - p[b * 3 + k]!));
          const target = Float64Array.from(by, (v, k) => before.places[end * 3 + k]! + v);
          const reachable =
            length(limb.upper, limb.lower, before.places) + length(limb.lower, end, before.places) - 0.002;
          fc.pre(Math.hypot(...target.map((v, k) => v - before.places[limb.upper * 3 + k]!)) < reachable);
          const posed = reachedPose(plan, FRAME, limb, target);
          const after = posesOf(
            planOf(applyEdit(scene, poseEdit(plan, layerOf(scene), FRAME, posed), library)),
          );
          expect(Math.hypot(...target.map((v, k) => v - after.places[end * 3 + k]!))).toBeLessThan(1e-4);
          const head = plan.skeleton.names.indexOf('head') * 3;
          for (let k = 0; k < 3; k++) expect(after.places[head + k]).toBeCloseTo(before.places[head + k]!, 9);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('has an elbow that never flips while its hand is brought round in a circle', () => {
    const scene = sceneWith({});
    const plan = planOf(scene);
    const limb = limbEndingAt(plan.skeleton, jointOfRole(plan.skeleton, 'leftHand'))!;
    const { places } = posesOf(plan);
    const shoulder = [0, 1, 2].map((k) => places[limb.upper * 3 + k]!);
    const middle = [0, 1, 2].map((k) => shoulder[k]! + 0.8 * (places[limb.end * 3 + k]! - shoulder[k]!));
    let last: number[] | null = null;
    for (let i = 0; i <= 72; i++) {
      const angle = (i / 72) * 2 * Math.PI;
      const target = Float64Array.of(
        middle[0]! + 0.06 * Math.cos(angle),
        middle[1]! + 0.06 * Math.sin(angle),
        middle[2]!,
      );
      const posed = reachedPose(plan, FRAME, limb, target);
      const after = posesOf(planOf(applyEdit(scene, poseEdit(plan, layerOf(scene), FRAME, posed), library)));
      const elbow = [0, 1, 2].map((k) => after.places[limb.lower * 3 + k]!);
      // Five degrees of a circle of 6 cm are half a centimetre.
      if (last) expect(Math.hypot(...elbow.map((v, k) => v - last![k]!))).toBeLessThan(0.03);
      last = elbow;
    }
  });

  it('ends limbs with hands and feet only', () => {
    const { skeleton } = walk;
    expect(limbEndingAt(skeleton, skeleton.names.indexOf('head'))).toBeNull();
    expect(limbEndingAt(skeleton, jointOfRole(skeleton, 'rightFoot'))).toEqual({
      upper: jointOfRole(skeleton, 'rightUpperLeg'),
      lower: jointOfRole(skeleton, 'rightLowerLeg'),
      end: jointOfRole(skeleton, 'rightFoot'),
    });
  });
});
