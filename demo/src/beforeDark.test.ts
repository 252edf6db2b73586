import { describe, expect, it } from '@jest/globals';
import type { CharacterPlan } from '@warper/core';
import {
  compile,
  continuityReport,
  defined,
  evaluate,
  footfallsOf,
  framesPerSecond,
  jointNamed,
  legsOf,
  lineCrossings,
  makeCameraPose,
  makePoseBuffer,
  makeWorldPose,
  placeInPicture,
  poseToWorld,
  shotPoseAt,
} from '@warper/core';
import { assembleCues, parseCueSheet } from '@warper/formats';
import { BEFORE_DARK } from './beforeDark';
import { makeDemonstration } from './demonstration';

const files = await makeDemonstration();
const { scene, library } = await assembleCues(parseCueSheet(BEFORE_DARK), (name) =>
  Promise.resolve(defined(files.get(name))),
);
const plan = compile(scene, library);
const who = (name: string): CharacterPlan => defined(plan.characters.find((c) => c.character.name === name));

const placeOf = (plan: CharacterPlan, joint: string, frame: number): number[] => {
  const { skeleton } = plan;
  const world = poseToWorld(
    skeleton,
    evaluate(plan, frame, makePoseBuffer(skeleton)),
    makeWorldPose(skeleton),
  );
  const o = jointNamed(skeleton, joint) * 3;
  return [...world.positions.subarray(o, o + 3)];
};

const apart = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(...a.map((v, k) => v - defined(b[k])));

describe('the scene with props and characters who act together', () => {
  it('has nothing bad in it', () => {
    const report = continuityReport(plan);
    expect(report.filter((item) => item.grade === 'bad').map((item) => item.id)).toEqual([]);
    expect(report.length).toBeGreaterThan(10);
  });

  it('slides the shutter along its rail only, within it', () => {
    const shutter = who('Storm shutter');
    const [before, after] = [placeOf(shutter, 'shutter', 60), placeOf(shutter, 'shutter', 120)];
    expect(apart(before, after)).toBeGreaterThan(0.9);
    expect(apart(before, after)).toBeLessThan(1.15);
    expect(after[1]).toBeCloseTo(defined(before[1]), 6);
    expect(after[0]).toBeCloseTo(defined(before[0]), 6);
  });

  it('has the dog follow on its lead, the basket on its back', () => {
    const [dog, keeper, basket] = [who('Dog'), who('Keeper'), who('Basket')];
    for (let f = 30; f < 215; f += 5)
      expect(apart(placeOf(dog, 'neck', f), placeOf(keeper, 'rightHand', f))).toBeLessThan(2.02);
    for (let f = 0; f < 300; f += 20)
      expect(apart(placeOf(basket, 'basket', f), placeOf(dog, 'spine', f))).toBeLessThan(0.35);
  });

  it('hands the lantern over, without a jump, 0.74 m apart', () => {
    const lantern = who('Lantern');
    const grip = (f: number): number[] => placeOf(lantern, 'grip', f);
    const hand = (name: string, f: number): number =>
      apart(placeOf(who(name), name === 'Keeper' ? 'rightHand' : 'leftHand', f), grip(f));
    expect(hand('Keeper', 590)).toBeLessThan(0.12);
    expect(hand('Visitor', 640)).toBeLessThan(0.12);
    // The hand swings with the walk; nothing sets off or stops at once.
    const step = (f: number): number => apart(grip(f), grip(f - 1));
    for (let f = 325; f < 800; f++) expect(Math.abs(step(f) - step(f - 1))).toBeLessThan(0.025);
    const roots = ['Keeper', 'Visitor'].map((name) => {
      const c = who(name);
      return [...evaluate(c, 600, makePoseBuffer(c.skeleton)).root].slice(0, 2);
    });
    expect(apart(defined(roots[0]), defined(roots[1]))).toBeCloseTo(0.74, 4);
  });

  it('pushes the Keeper aside by 0.3 m', () => {
    const keeper = who('Keeper');
    const [before, after] = [708, 742].map((f) =>
      evaluate(keeper, f, makePoseBuffer(keeper.skeleton)).root.slice(),
    );
    expect(apart([...defined(before)].slice(0, 2), [...defined(after)].slice(0, 2))).toBeCloseTo(0.3, 1);
  });

  it('is filmed from one side, the Keeper always in the picture, and both of them while the lantern goes over', () => {
    expect(lineCrossings(plan)).toEqual([]);
    const pose = makeCameraPose();
    const seen = (name: string, joint: string, frame: number): number => {
      shotPoseAt(plan, frame, pose);
      const at = placeInPicture(pose, placeOf(who(name), joint, frame), plan.filming.aspect);
      return at ? Math.max(Math.abs(at[0]), Math.abs(at[1])) : Infinity;
    };
    expect(plan.filming.shots.map((s) => s.end).at(-1)).toBe(plan.end);
    for (let f = 0; f < plan.end; f += 3) expect(seen('Keeper', 'hips', f)).toBeLessThan(0.95);
    for (let f = 570; f < 660; f += 3) {
      expect(seen('Keeper', 'head', f)).toBeLessThan(1);
      expect(seen('Visitor', 'head', f)).toBeLessThan(1);
    }
  });

  it('has steps heard when a foot comes down: it moved just before, and stands just after', () => {
    const fps = framesPerSecond(plan.rate);
    for (const name of ['Keeper', 'Dog']) {
      const one = who(name);
      const legs = legsOf(one.skeleton);
      const falls = footfallsOf(one, fps);
      const speed = (joint: number, frame: number): number => {
        const [a, b] = [frame - 0.5, frame + 0.5].map((f) => placeOf(one, one.skeleton.names[joint]!, f));
        return Math.hypot(...a!.map((v, k) => v - b![k]!)) * fps;
      };
      expect(falls.length).toBeGreaterThan(8);
      for (const { frame, leg } of falls) {
        const { planted } = legs[leg]!;
        const before = Math.max(...planted.map((joint) => speed(joint, frame - 3)));
        const after = Math.min(...planted.flatMap((joint) => [1, 2, 3].map((f) => speed(joint, frame + f))));
        expect(before).toBeGreaterThan(2 * after);
        expect(after).toBeLessThan(0.3);
      }
    }
  });
});
