import { describe, expect, it } from '@jest/globals';
import type { CharacterPlan, Contact, LayerLane, Scene, ValueKey } from '@warper/core';
import {
  PLAIN_LAYER,
  compile,
  defined,
  evaluate,
  jointOfRole,
  makePoseBuffer,
  makeWorldPose,
  poseToWorld,
} from '@warper/core';
import { quatAngle } from '@warper/core/kernels';
import fc from 'fast-check';
import { skeletonOf } from './build';
import { KEEPER, keeperClips } from './demonstration';
import { libraryOf, sceneOf, segmentOf } from './testing';

const skeleton = skeletonOf(KEEPER);
const clips = keeperClips(skeleton).map((c) => c.clip);
const named = (name: string) => defined(clips.find((c) => c.name === name));
const [lookOut, idle] = [named('Look out'), named('Idle')];
const library = libraryOf(clips, skeleton);

const at = (frame: number, value: number): ValueKey => ({
  frame,
  value,
  curve: 'smooth',
  tangent: null,
  into: null,
});
/** A body that sways and comes down, with hands that are held. */
function swaying(clip: typeof idle, contacts: readonly Contact[], values: Partial<LayerLane> = {}): Scene {
  const base = sceneOf([segmentOf(clip, 'a')]);
  const lane: LayerLane = {
    ...PLAIN_LAYER,
    id: 'y',
    character: 'c',
    name: 'sway',
    rootKeys: { left: [at(20, 0), at(40, 0.08), at(70, -0.04)] },
    dialKeys: { crouch: [at(20, 0), at(50, 0.08)], lean: [at(20, 0), at(50, 10)] },
    rootFeet: 'slide',
    contacts,
    ...values,
  };
  return { ...base, lanes: { ...base.lanes, y: lane }, laneOrder: ['l', 'y'] };
}
const planOf = (scene: Scene): CharacterPlan => defined(compile(scene, library).characters[0]);
const handAt = (plan: CharacterPlan, frame: number, role: 'leftHand' | 'rightHand') => {
  const pose = evaluate(plan, frame, makePoseBuffer(skeleton));
  const { positions, rotations } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
  const j = jointOfRole(skeleton, role);
  return { place: [...positions.slice(j * 3, j * 3 + 3)], turn: rotations.slice(j * 4, j * 4 + 4) };
};
const apart = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(...a.map((v, k) => v - defined(b[k])));
const held = (hand: Contact['hand'], start: number, end: number): Contact => ({
  hand,
  start,
  end,
  fadeIn: 0,
  fadeOut: 8,
});

describe('a held hand', () => {
  it('stays on its place, and turned as it was, within a tenth of a millimetre, while the body moves', () => {
    for (const clip of [lookOut, idle])
      for (const [hand, rootFeet] of [
        ['leftHand', 'slide'],
        ['leftHand', 'hold'],
        ['rightHand', 'slide'],
      ] as const) {
        const plan = planOf(swaying(clip, [held(hand, 20, 70)], { rootFeet }));
        const first = handAt(plan, 20, hand);
        for (const f of [21, 33.5, 45, 60]) {
          const now = handAt(plan, f, hand);
          expect(apart(now.place, first.place)).toBeLessThan(1e-4);
          expect(quatAngle(now.turn, 0, first.turn, 0)).toBeLessThan(1e-4);
        }
        expect(apart(handAt(planOf(swaying(clip, [])), 45, hand).place, first.place)).toBeGreaterThan(0.05);
      }
  });

  it('begins where it is, is let go without a jump, and leaves the rest to the bit', () => {
    const [plain, plan] = [
      planOf(swaying(lookOut, [])),
      planOf(swaying(lookOut, [held('leftHand', 20, 70)])),
    ];
    const step = (p: CharacterPlan, f: number): number =>
      apart(handAt(p, f, 'leftHand').place, handAt(p, f - 1, 'leftHand').place);
    expect(apart(handAt(plan, 20, 'leftHand').place, handAt(plain, 20, 'leftHand').place)).toBeLessThan(1e-4);
    // 15 cm smoothly in 9 steps are 2.5 cm at the most, beside what the body moves.
    for (let f = 60; f < 76; f++) expect(step(plan, f)).toBeLessThan(0.04);
    for (const f of [0, 19, 70, 90])
      expect(handAt(plan, f, 'leftHand').place).toEqual(handAt(plain, f, 'leftHand').place);
    expect(handAt(plan, 45, 'rightHand').place).toEqual(handAt(plain, 45, 'rightHand').place);
  });

  it('goes with the weight of the layer', () => {
    const off = (w: number): number => {
      const values = { weight: [[0, w]] as const, rootKeys: {}, dialKeys: {} };
      const plan = planOf(swaying(lookOut, [held('leftHand', 20, 70)], values));
      return apart(handAt(plan, 60, 'leftHand').place, handAt(plan, 20, 'leftHand').place);
    };
    expect(off(1)).toBeLessThan(1e-4);
    expect(off(0.5)).toBeGreaterThan(off(0.9) * 2);
  });

  it('is the same in whatever order frames are asked for', () => {
    const frames = fc.array(fc.integer({ min: 0, max: 90 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(frames, (order) => {
        const [a, b] = [0, 1].map(() => planOf(swaying(lookOut, [held('leftHand', 20, 70)])));
        const last = defined(order.at(-1));
        for (const f of order) handAt(defined(a), f, 'leftHand');
        expect(handAt(defined(a), last, 'leftHand')).toEqual(handAt(defined(b), last, 'leftHand'));
      }),
      { numRuns: 20 },
    );
  });
});
