import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { bake } from '../bake/bake';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '../clip/pose';
import { compile } from '../compile/compile';
import { applyEdit, edit } from '../edit/edit';
import { evaluate } from '../footlock/evaluate';
import { quatAngle, quatMultiply, quatRotate } from '../math/quaternion';
import { parseRate } from '../math/rate';
import type { CharacterPlan } from '../plan/plan';
import { parseScene } from '../scene/schema';
import type { PerAxis, Tether } from '../scene/tether';
import { PLAIN_REACH } from '../scene/tether';
import { holdOf, jointAt, stagedLibrary, stagedScene } from '../testing/staged';

/** The performances of a scene with tethers, by id. */
function performed(...tethers: Tether[]): Record<string, CharacterPlan> {
  const { characters } = compile(stagedScene(...tethers), stagedLibrary);
  return Object.fromEntries(characters.map((c) => [c.character.id, c]));
}
const alone = performed();

const places = (plan: CharacterPlan | undefined, frame: number): number[] =>
  plan ? plan.skeleton.names.flatMap((name) => jointAt(plan, name, frame)) : [];
/** Clips keep 32-bit rotations, whose length is off by as much. */
const CLOSE = 1e-6;
const expectClose = (a: readonly number[], b: readonly number[], within = CLOSE): void => {
  expect(a).toHaveLength(b.length);
  a.forEach((v, i) => expect(Math.abs(v - b[i]!)).toBeLessThan(within));
};
/** A place of the one joint in the axes of the other, and the angle between them. */
function relative(plan: CharacterPlan, name: string, to: CharacterPlan, of: string, frame: number): number[] {
  const [a, b] = [jointAt(plan, name, frame), jointAt(to, of, frame)];
  const d = Float64Array.from([0, 1, 2].map((k) => a[k]! - b[k]!));
  const back = Float64Array.of(-b[3]!, -b[4]!, -b[5]!, b[6]!);
  quatRotate(back, 0, d, 0, d, 0);
  return [...d];
}

const dot = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, v, k) => sum + v * b[k]!, 0);
const minus = (a: readonly number[], b: readonly number[]): number[] => a.map((v, k) => v - b[k]!);

const flags = fc.tuple(fc.boolean(), fc.boolean(), fc.boolean()) as fc.Arbitrary<PerAxis<boolean>>;
const anyHold = fc
  .record({
    child: fc.constantFrom('p', 'v'),
    joint: fc.constantFrom(null, 'leftHand', 'head'),
    held: fc.constantFrom(null, 'lid', 'spine', 'hips'),
    jointOnly: fc.boolean(),
    places: flags,
    turns: flags,
    directions: fc.constantFrom('world' as const, 'floor' as const, 'parent' as const, 'own' as const),
    start: fc.integer({ min: 1, max: 60 }),
  })
  .map((values) => holdOf({ ...values, end: values.start + 20 }));

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

  it('follows along one axis only, and keeps height, side and turn', () => {
    const { p, c } = performed(
      holdOf({ places: [true, false, false], turns: [false, false, false], directions: 'world' }),
    );
    const [rest, hand] = [jointAt(p!, 'crate', 20), jointAt(c!, 'leftHand', 20)];
    for (const frame of [25, 40, 59]) {
      const at = jointAt(p!, 'crate', frame);
      expect(at[0]! - rest[0]!).toBeCloseTo(jointAt(c!, 'leftHand', frame)[0]! - hand[0]!, 12);
      expectClose(at.slice(1), rest.slice(1), 1e-12);
    }
  });

  it('follows along its own axis, as on a rail that lies askew', () => {
    const { p } = performed(
      holdOf({ places: [false, false, true], turns: [false, false, false], directions: 'own' }),
    );
    const rest = jointAt(p!, 'crate', 20);
    const [s, cos] = [Math.sin((20 * Math.PI) / 180), Math.cos((20 * Math.PI) / 180)];
    for (const frame of [30, 45, 59]) {
      const at = jointAt(p!, 'crate', frame);
      const [dx, dz] = [at[0]! - rest[0]!, at[2]! - rest[2]!];
      expect(dx * cos - dz * s).toBeCloseTo(0, 10);
      expect(Math.abs(dx * s + dz * cos)).toBeGreaterThan(0.01);
      expect(at[1]).toBeCloseTo(rest[1]!, 12);
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

  it('passes a thing from hand to hand without a step beyond what the hands make', () => {
    const left = holdOf({ end: 50 });
    const right = holdOf({ id: 'u', joint: 'rightHand', start: 44, end: 80, fadeIn: 6 });
    const { p, c } = performed(left, right);
    const step = (plan: CharacterPlan, name: string, f: number): number => {
      const [a, b] = [jointAt(plan, name, f), jointAt(plan, name, f + 0.01)];
      return Math.hypot(...[0, 1, 2].map((k) => a[k]! - b[k]!));
    };
    for (let f = 18; f < 84; f += 0.5) {
      const hands = Math.max(step(c!, 'leftHand', f), step(c!, 'rightHand', f));
      // The thing is 1 m off the hands' joints: they carry it further as they turn.
      expect(step(p!, 'crate', f)).toBeLessThan(6 * hands + 1e-3);
    }
    const first = relative(p!, 'crate', c!, 'rightHand', 50);
    expectClose(relative(p!, 'crate', c!, 'rightHand', 75), first);
  });

  it('holds what comes later in the scene before what comes earlier', () => {
    const { p, b, c } = performed(
      holdOf({ parent: 'b', joint: null, end: null }),
      holdOf({ id: 's', child: 'b' }),
    );
    expectClose(relative(p!, 'crate', b!, 'crate', 55), relative(p!, 'crate', b!, 'crate', 20));
    expectClose(relative(p!, 'crate', c!, 'leftHand', 55), relative(p!, 'crate', c!, 'leftHand', 20));
  });

  it('holds what holds another thing, in whatever order they were made', () => {
    const onCrate = holdOf({ id: 's', child: 'b', parent: 'p', joint: 'lid', end: null });
    for (const tethers of [
      [onCrate, holdOf()],
      [holdOf(), onCrate],
    ]) {
      const { b, p, c } = performed(...tethers);
      const first = relative(b!, 'crate', c!, 'leftHand', 20);
      expectClose(relative(b!, 'crate', c!, 'leftHand', 55), first);
      expectClose(relative(b!, 'crate', p!, 'lid', 85), relative(b!, 'crate', p!, 'lid', 20));
    }
  });

  it('goes on from wherever those before it have brought a thing, in whatever order they were made', () => {
    fc.assert(
      fc.property(anyHold, fc.integer({ min: -10, max: 12 }), (t, after) => {
        const second = holdOf({
          ...t,
          id: 'u',
          parent: 'b',
          joint: null,
          start: t.start + 20 + after,
          end: null,
        });
        const staged = performed(t, second)[t.child];
        expectClose(places(staged, second.start), places(performed(t)[t.child], second.start));
        const later = second.start + 7;
        expect(places(performed(second, t)[t.child], later)).toEqual(places(staged, later));
      }),
      { numRuns: 40 },
    );
  });

  it('that fades out before a thing stays comes to rest where it stays', () => {
    const { p } = performed(holdOf({ fadeOut: 12 }));
    const last = places(performed(holdOf()).p, 60);
    expectClose(places(p, 60), last);
    expectClose(places(p, 60 - 1e-3), last, 1e-4);
    expectClose(places(p, 48), places(performed(holdOf()).p, 48));
  });

  it.each(['floor', 'parent'] as const)('follows along the axes of the %s', (directions) => {
    const along = { places: [false, false, true], turns: [false, false, false], directions } as const;
    const { p, c } = performed(holdOf(along));
    const { root } = evaluate(c!, 20, makePoseBuffer(c!.skeleton));
    const axis =
      directions === 'floor'
        ? [Math.sin(root[2]!), 0, Math.cos(root[2]!)]
        : [
            ...quatRotate(
              Float64Array.from(jointAt(c!, 'leftHand', 20).slice(3)),
              0,
              Float64Array.of(0, 0, 1),
              0,
              new Float64Array(3),
              0,
            ),
          ];
    const [from, to] = [20, 50].map((f) => jointAt(p!, 'crate', f).slice(0, 3));
    const [handFrom, handTo] = [20, 50].map((f) => jointAt(c!, 'leftHand', f).slice(0, 3));
    const along3 = axis.map((v) => v * dot(axis, minus(handTo!, handFrom!)));
    expect(Math.hypot(...along3)).toBeGreaterThan(0.01);
    expectClose(minus(to!, from!), along3);
  });

  it('turns along about one axis, or about two', () => {
    const turned = (turns: PerAxis<boolean>): number[] => {
      const { p } = performed(holdOf({ turns }));
      const [a, b] = [20, 50].map((f) => Float64Array.from(jointAt(p!, 'crate', f).slice(3)));
      const back = Float64Array.of(-a![0]!, -a![1]!, -a![2]!, a![3]!);
      return [...quatMultiply(b!, 0, back, 0, new Float64Array(4), 0)];
    };
    const whole = turned([true, true, true]);
    const upright = turned([false, true, false]);
    expectClose([upright[0]!, upright[2]!], [0, 0]);
    // The twist of a swing-twist decomposition.
    expect(Math.abs(upright[1]! / upright[3]!)).toBeCloseTo(Math.abs(whole[1]! / whole[3]!), 6);
    expect(Math.abs(upright[1]!)).toBeGreaterThan(0.05);
    const two = turned([true, true, false]);
    expect(two[2]).toBeCloseTo(0, 6);
    // Of the same rotation vector, but for its third part.
    expect(two[0]! / two[1]!).toBeCloseTo(whole[0]! / whole[1]!, 6);
    expect(Math.abs(two[0]!)).toBeGreaterThan(0.01);
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

describe('a reach', () => {
  const reach = (values = {}): Tether => ({
    ...PLAIN_REACH,
    id: 'r',
    name: 'grip',
    child: 'c',
    parent: 'p',
    joint: 'lid',
    limb: 'rightHand',
    start: 10,
    end: 80,
    ...values,
  });
  const near = { place: [0, 0, 0] as const, turn: null };

  it('puts the hand onto a thing that the other hand carries', () => {
    const grip = { place: [0.1, 0.05, 0.1] as const, turn: null };
    const { p, c } = performed(holdOf({ grip, held: 'lid', start: 5, end: 85 }), reach({ grip: near }));
    let most = 0;
    for (let f = 10; f < 80; f += 3) {
      const off = relative(c!, 'rightHand', p!, 'lid', f);
      const shoulder = jointAt(c!, 'rightUpperArm', f);
      const thing = jointAt(p!, 'lid', f);
      const far = Math.hypot(...[0, 1, 2].map((k) => shoulder[k]! - thing[k]!));
      most = Math.max(most, Math.hypot(...off));
      if (far < 0.51) expect(Math.hypot(...off)).toBeLessThan(1e-6);
      else expect(Math.hypot(...off)).toBeCloseTo(far - 0.52 * 0.9995, 3);
    }
    expect(most).toBeGreaterThan(0);
    // The arm alone has moved.
    expectClose(jointAt(c!, 'leftHand', 40), jointAt(alone.c!, 'leftHand', 40));
    expectClose(jointAt(c!, 'rightHand', 9), jointAt(alone.c!, 'rightHand', 9));
  });

  it('turns the hand as its grip says', () => {
    const turn = [0, Math.sin(0.3), 0, Math.cos(0.3)] as const;
    const { c } = performed(
      reach({ child: 'c', parent: 'v', joint: 'head', grip: { place: [0, 0, 0], turn } }),
    );
    const [hand, head] = [c!, alone.v!].map((plan, i) =>
      Float64Array.from(jointAt(plan, i === 0 ? 'rightHand' : 'head', 40).slice(3)),
    );
    const wanted = quatMultiply(head!, 0, Float64Array.from(turn), 0, new Float64Array(4), 0);
    expect(quatAngle(hand!, 0, wanted, 0)).toBeLessThan(1e-6);
  });

  it('without a grip keeps the hand on the place that it has when it begins', () => {
    const { v, c } = performed(reach({ child: 'v', parent: 'c', joint: 'chest', fadeOut: 5 }));
    expectClose(places(v, 10), places(alone.v, 10));
    expectClose(places(v, 80 - 1e-5), places(alone.v, 80), 1e-5);
    expect(c).toBeDefined();
  });
});

describe('tethers of a scene', () => {
  it('are refused where they would close a ring, with the names in it', () => {
    const scene = stagedScene(holdOf({ child: 'v', parent: 'c' }));
    const back = holdOf({ id: 'u', child: 'c', parent: 'p' });
    const one = applyEdit(scene, { type: 'tether', tether: back }, stagedLibrary);
    const closing = holdOf({ id: 'w', child: 'p', parent: 'v' });
    expect(() => edit(one, { type: 'tether', tether: closing }, stagedLibrary)).toThrow(
      /Visitor would be held by Keeper would be held by Crate would be held by Visitor|Keeper would be held by Crate would be held by Visitor would be held by Keeper/,
    );
    expect(() => parseScene({ ...one, tethers: { ...one.tethers, w: closing } })).toThrow(/ring of tethers/);
    const self = holdOf({ id: 'w', child: 'v', parent: 'v' });
    expect(() => edit(one, { type: 'tether', tether: self }, stagedLibrary)).toThrow(
      /cannot hold themselves/,
    );
    expect(() => parseScene({ ...one, tethers: { w: self } })).toThrow(/to itself/);
    // A reach closes none.
    const reaching: Tether = {
      ...PLAIN_REACH,
      id: 'r',
      name: 'r',
      child: 'c',
      parent: 'v',
      start: 0,
      limb: 'leftHand',
    };
    expect(() =>
      compile(applyEdit(one, { type: 'tether', tether: reaching }, stagedLibrary), stagedLibrary),
    ).not.toThrow();
  });

  it('go with whoever is removed, and keep their seconds when the rate changes', () => {
    const scene = stagedScene(holdOf(), holdOf({ id: 'u', child: 'b', parent: 'p' }));
    const gone = applyEdit(scene, { type: 'remove character', character: 'p' }, stagedLibrary);
    expect(gone.tethers).toEqual({});
    const fast = applyEdit(scene, { type: 'rate', rate: 60, keep: 'seconds' }, stagedLibrary);
    expect(fast.tethers.t).toMatchObject({ start: 40, end: 120 });
  });

  it('let a prop be there as long as the scene', () => {
    expect([alone.p!.start, alone.p!.end]).toEqual([0, 90]);
    expect(jointAt(alone.p!, 'crate', 50).slice(0, 3)).toEqual([0.5, 0.8, 0.3]);
  });
});
