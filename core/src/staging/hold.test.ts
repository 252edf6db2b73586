import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { bake } from '../bake/bake';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { quatAngle } from '../math/quaternion';
import { parseRate } from '../math/rate';
import type { CharacterPlan } from '../plan/plan';
import { alone, anyHold, expectClose, performed, places, relative } from '../testing/heldPlaces';
import { holdOf, jointAt } from '../testing/staged';

describe('a hold', () => {
  it('that keeps its offset changes nothing at its first frame, whatever follows', () => {
    fc.assert(
      fc.property(anyHold, (t) => {
        const staged = performed(t);
        expectClose(places(staged[t.child], t.start), places(alone[t.child], t.start));
        // A thousandth of a frame later it has hardly moved.
        const [later, own] = [
          places(staged[t.child], t.start + 1e-3),
          places(alone[t.child], t.start + 1e-3),
        ];
        expectClose(later, own, 1e-3);
      }),
      { numRuns: 60 },
    );
  });

  it('carries a thing along as if it were part of the hand', () => {
    const { p, c } = performed(holdOf());
    const first = relative(p!, 'lid', c!, 'leftHand', 20);
    for (const frame of [20.5, 27, 41, 59]) expectClose(relative(p!, 'lid', c!, 'leftHand', frame), first);
    const [a, b] = [20, 50].map((f) => [jointAt(p!, 'crate', f), jointAt(c!, 'leftHand', f)]);
    const angle = (pair: number[][]): number =>
      quatAngle(Float64Array.from(pair[0]!.slice(3)), 0, Float64Array.from(pair[1]!.slice(3)), 0);
    expect(angle(a!)).toBeCloseTo(angle(b!), 9);
    expect(Math.hypot(...[0, 1, 2].map((k) => a![0]![k]! - b![0]![k]!))).toBeGreaterThan(0.3);
  });

  it('leaves a thing where it was last held, or lets it go back', () => {
    const { p } = performed(holdOf());
    const after = places(p, 60);
    expectClose(places(p, 60 - 1e-6), after, 1e-5);
    for (const frame of [61, 80, 200]) expectClose(places(p, frame), after);
    expectClose(places(performed(holdOf({ after: 'return' })).p, 60), places(alone.p, 60));
    const fading = performed(holdOf({ after: 'return', fadeOut: 10 })).p;
    expectClose(places(fading, 60 - 1e-4), places(alone.p, 60), 1e-6);
  });

  it('fades into a grip, and is exactly there when it has', () => {
    const grip = { place: [0.02, -0.05, 0.1] as const, turn: [0, 0, 0, 1] as const };
    const { p, c } = performed(holdOf({ grip, held: 'lid', fadeIn: 8 }));
    expectClose(places(p, 20), places(alone.p, 20));
    for (const frame of [28, 40.5, 59]) {
      expectClose(relative(p!, 'lid', c!, 'leftHand', frame), grip.place);
      expectClose(jointAt(p!, 'lid', frame).slice(3), jointAt(c!, 'leftHand', frame).slice(3));
    }
  });

  it('moves one joint alone, with what its body is left where it was', () => {
    const { p, c } = performed(holdOf({ held: 'lid', jointOnly: true }));
    const first = relative(p!, 'lid', c!, 'leftHand', 20);
    expectClose(relative(p!, 'lid', c!, 'leftHand', 50), first);
    expectClose(jointAt(p!, 'crate', 50), jointAt(alone.p!, 'crate', 50));
    const clip = bake(p!, parseRate(30), { from: 0, to: 90 });
    const world = makeWorldPose(p!.skeleton);
    for (const frame of [10, 50, 70]) {
      poseToWorld(p!.skeleton, samplePose(clip, frame, makePoseBuffer(p!.skeleton)), world);
      expectClose([...world.positions.subarray(3, 6)], jointAt(p!, 'lid', frame).slice(0, 3), 1e-6);
    }
  });

  it('as a whole lets somebody go on moving by themselves; by a joint it does not', () => {
    const whole = performed(holdOf({ child: 'v' })).v!;
    const hips = performed(holdOf({ child: 'v', held: 'hips' }));
    // The trunk bends as it does without being held.
    expectClose(relative(whole, 'head', whole, 'hips', 50), relative(alone.v!, 'head', alone.v!, 'hips', 50));
    const first = relative(hips.v!, 'hips', hips.c!, 'leftHand', 20);
    expectClose(relative(hips.v!, 'hips', hips.c!, 'leftHand', 50), first);
    const held = [20, 50].map((f) => relative(whole, 'hips', hips.c!, 'leftHand', f));
    expect(Math.hypot(...held[0]!.map((v, k) => v - held[1]![k]!))).toBeGreaterThan(0.1);
  });

  it('sets somebody with legs down upright, on the floor, where they are', () => {
    const { v } = performed(holdOf({ child: 'v', held: 'hips' }));
    const [last, after] = [jointAt(v!, 'hips', 60 - 1e-6), jointAt(v!, 'hips', 60)];
    expect(after[0]).toBeCloseTo(last[0]!, 4);
    expect(after[2]).toBeCloseTo(last[2]!, 4);
    for (const frame of [60, 75]) {
      expect(jointAt(v!, 'hips', frame)[1]).toBeCloseTo(jointAt(alone.v!, 'hips', frame)[1]!, 9);
      expect(relative(v!, 'head', v!, 'hips', frame)[1]).toBeCloseTo(
        relative(alone.v!, 'head', alone.v!, 'hips', frame)[1]!,
        9,
      );
    }
  });

  it('that fades out before a thing stays comes to rest where it stays', () => {
    const { p } = performed(holdOf({ fadeOut: 12 }));
    const last = places(performed(holdOf()).p, 60);
    expectClose(places(p, 60), last);
    expectClose(places(p, 60 - 1e-3), last, 1e-4);
    expectClose(places(p, 48), places(performed(holdOf()).p, 48));
  });

  it('takes the root along with the body', () => {
    const flat = { places: [true, false, true], turns: [false, true, false] } as const;
    const { v } = performed(holdOf({ ...flat, child: 'v', joint: null }));
    const inRoot = (plan: CharacterPlan): number[] => {
      const { root } = evaluate(plan, 50, makePoseBuffer(plan.skeleton));
      const [x, , z] = jointAt(plan, 'hips', 50);
      const [s, c] = [Math.sin(root[2]!), Math.cos(root[2]!)];
      const [dx, dz] = [x! - root[0]!, z! - root[1]!];
      return [dx * c - dz * s, dx * s + dz * c];
    };
    expectClose(inRoot(v!), inRoot(alone.v!));
    const [own, held] = [alone.v!, v!].map(
      (plan) => evaluate(plan, 50, makePoseBuffer(plan.skeleton)).root[2]!,
    );
    expect(Math.abs(own! - held!)).toBeGreaterThan(0.1);
  });

  it('weighs as its curve says, about the joint that is held', () => {
    const { p } = performed(holdOf({ weight: [[20, 0.5]] }));
    const [own, full, half] = [alone.p, performed(holdOf()).p, p].map((plan) =>
      jointAt(plan!, 'crate', 45).slice(0, 3),
    );
    expectClose(
      half!,
      own!.map((v, k) => (v + full![k]!) / 2),
    );
    expectClose(places(performed({ ...holdOf(), muted: true }).p, 45), places(alone.p, 45));
  });
});
