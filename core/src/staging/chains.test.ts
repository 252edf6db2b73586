import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { CharacterPlan } from '../plan/plan';
import { anyHold, expectClose, performed, places, relative } from '../testing/heldPlaces';
import { holdOf, jointAt } from '../testing/staged';

describe('several holds', () => {
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
});
