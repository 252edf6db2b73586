import { describe, expect, it } from '@jest/globals';
import { quatAngle, quatMultiply } from '../math/quaternion';
import type { Reach, Tether } from '../scene/tether';
import { alone, expectClose, performed, places, relative } from '../testing/heldPlaces';
import { holdOf, jointAt, reachOf } from '../testing/staged';

describe('a reach', () => {
  const reach = (values: Partial<Reach> = {}): Tether =>
    reachOf({ limb: 'rightHand', start: 10, end: 80, ...values });
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
