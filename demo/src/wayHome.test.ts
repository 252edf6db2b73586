import { describe, expect, it } from '@jest/globals';
import type { CharacterPlan } from '@warper/core';
import {
  compile,
  continuityReport,
  defined,
  evaluate,
  jointNamed,
  lineCrossings,
  makePoseBuffer,
  makeWorldPose,
  poseToWorld,
} from '@warper/core';
import { quatAngle } from '@warper/core/kernels';
import { assembleCues, parseCueSheet } from '@warper/formats';
import { makeDemonstration } from './demonstration';
import { WAY_HOME } from './wayHome';

const files = await makeDemonstration();
const { scene, library } = await assembleCues(parseCueSheet(WAY_HOME), (name) =>
  Promise.resolve(defined(files.get(name))),
);
const plan = compile(scene, library);
const who = (name: string): CharacterPlan => defined(plan.characters.find((c) => c.character.name === name));

function jointAt({ skeleton, ...plan }: CharacterPlan, joint: string, frame: number): Float64Array {
  const pose = evaluate({ skeleton, ...plan }, frame, makePoseBuffer(skeleton));
  const { positions, rotations } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
  const j = jointNamed(skeleton, joint);
  return Float64Array.of(...positions.subarray(j * 3, j * 3 + 3), ...rotations.subarray(j * 4, j * 4 + 4));
}

const apart = (a: Float64Array, b: Float64Array): number =>
  Math.hypot(...[0, 1, 2].map((k) => defined(a[k]) - defined(b[k])));

/** The frames in which the cart is pulled, but for the first and the last second. */
const PULLED = Array.from({ length: 90 }, (_, i) => 110 + 2 * i);

describe('the scene in which the Visitor is pulled on the cart', () => {
  it('has nothing bad in it, and is filmed from one side', () => {
    expect(continuityReport(plan).filter((item) => item.grade === 'bad')).toEqual([]);
    expect(lineCrossings(plan)).toEqual([]);
  });

  it('has the Visitor ride on the seat, feet off the floor, and then stand on the floor', () => {
    const [visitor, cart] = [who('Visitor'), who('Hand cart')];
    const offset = (frame: number): number[] =>
      [0, 1, 2].map(
        (k) => defined(jointAt(visitor, 'sacroiliac', frame)[k]) - defined(jointAt(cart, 'seat', frame)[k]),
      );
    for (const frame of PULLED) {
      const [x, y, z] = offset(frame);
      expect(Math.hypot(x!, z!)).toBeLessThan(0.3);
      expect(y).toBeGreaterThan(0.07);
      expect(y).toBeLessThan(0.13);
      for (const foot of ['l_talocrural', 'r_talocrural'])
        expect(jointAt(visitor, foot, frame)[1]).toBeGreaterThan(0.12);
    }
    for (const foot of ['l_talocrural', 'r_talocrural'])
      expect(jointAt(visitor, foot, 440)[1]).toBeLessThan(0.11);
    expect(apart(jointAt(cart, 'cart', 100), jointAt(cart, 'cart', 300))).toBeGreaterThan(6);
  });

  it('has both hands of the Keeper on the shafts', () => {
    const [keeper, cart] = [who('Keeper'), who('Hand cart')];
    for (const side of ['left', 'right'])
      for (const frame of PULLED) {
        const [hand, grip] = [jointAt(keeper, `${side}Hand`, frame), jointAt(cart, `${side}Grip`, frame)];
        // The shaft lies in the palm, below the wrist.
        expect(apart(hand, grip)).toBeLessThan(0.1);
      }
  });

  it('has the wheels roll by the way of the cart', () => {
    const cart = who('Hand cart');
    const radius = defined(jointAt(cart, 'leftWheel', 0)[1]);
    let rolled = 0;
    for (let f = 100; f < 300; f++) {
      const [a, b] = [f, f + 1].map((frame) => jointAt(cart, 'leftWheel', frame).slice(3));
      rolled += quatAngle(defined(a), 0, defined(b), 0);
    }
    const way = apart(jointAt(cart, 'cart', 100), jointAt(cart, 'cart', 300));
    expect((rolled * radius) / way).toBeCloseTo(1, 1);
  });
});
