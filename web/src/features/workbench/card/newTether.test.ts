import { describe, expect, it } from '@jest/globals';
import type { Hold, Scene, Tether } from '@warper/core';
import { applyEdit, compile, defined } from '@warper/core';
import { holdOf, jointAt, stagedLibrary, stagedScene } from '../../../../../core/src/testing/staged';
import type { NewTether } from './newTether';
import { newHold, newReach } from './newTether';
import { renamed } from './tetherWords';

const planOf = (scene: Scene) => compile(scene, stagedLibrary);
const after = (scene: Scene, { edit }: NewTether): Scene => applyEdit(scene, edit, stagedLibrary);
const carried: Tether = holdOf({ start: 10, end: null });

describe('a new hold', () => {
  it('is by the hand that is nearest, and moves nothing as it begins', () => {
    const scene = stagedScene();
    const plan = planOf(scene);
    const { tether } = newHold(scene, plan, 'p', 'c', 30);
    const next = after(scene, newHold(scene, plan, 'p', 'c', 30));
    const [own, keeper] = ['p', 'c'].map((id) => defined(plan.characters.find((c) => c.character.id === id)));
    const far = (hand: string): number => {
      const [a, b] = [jointAt(defined(own), 'crate', 30), jointAt(defined(keeper), hand, 30)];
      return Math.hypot(...[0, 1, 2].map((k) => defined(a[k]) - defined(b[k])));
    };
    const nearer = far('leftHand') < far('rightHand') ? 'leftHand' : 'rightHand';
    expect(tether).toMatchObject({
      kind: 'hold',
      joint: nearer,
      held: null,
      grip: null,
      start: 30,
      end: null,
    });
    const held = defined(planOf(next).characters.find((c) => c.character.id === 'p'));
    jointAt(held, 'crate', 30).forEach((v, k) =>
      expect(v).toBeCloseTo(defined(jointAt(defined(own), 'crate', 30)[k]), 6),
    );
  });

  it('ends one of the same thing that had no end', () => {
    const scene = stagedScene(carried);
    const next = after(scene, newHold(scene, planOf(scene), 'p', 'v', 50));
    expect(next.tethers.t?.end).toBe(50);
    expect(Object.keys(next.tethers)).toHaveLength(2);
  });

  it('lets somebody with legs down gently', () => {
    const scene = stagedScene();
    expect((newHold(scene, planOf(scene), 'v', 'p', 0).tether as Hold).fadeOut).toBeGreaterThan(0);
  });
});

describe('a new reach', () => {
  it('is of a hand that does not hold the thing itself', () => {
    for (const [joint, limb] of [
      ['leftHand', 'rightHand'],
      ['rightHand', 'leftHand'],
    ] as const) {
      const scene = stagedScene({ ...carried, joint });
      expect(newReach(scene, planOf(scene), 'c', 'p', 40).tether).toMatchObject({
        kind: 'reach',
        limb,
        start: 40,
      });
    }
  });
});

describe('the name of a tether', () => {
  it('follows its joint as long as it is the usual one', () => {
    const scene = stagedScene();
    const plan = planOf(scene);
    const { tether } = newHold(scene, plan, 'p', 'c', 30);
    expect(renamed(tether, { joint: 'head' }, plan)).toEqual({ joint: 'head', name: 'Keeper, head' });
    expect(renamed({ ...tether, name: 'mine' }, { joint: 'head' }, plan)).toEqual({ joint: 'head' });
    expect(renamed(tether, { start: 5 }, plan)).toEqual({ start: 5 });
    expect(renamed(tether, { name: 'mine' }, plan)).toEqual({ name: 'mine' });
  });
});
