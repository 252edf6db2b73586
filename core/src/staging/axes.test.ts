import { describe, expect, it } from '@jest/globals';
import { makePoseBuffer } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { quatMultiply, quatRotate } from '../math/quaternion';
import type { PerAxis } from '../scene/tether';
import { expectClose, performed } from '../testing/heldPlaces';
import { holdOf, jointAt } from '../testing/staged';

const dot = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, v, k) => sum + v * b[k]!, 0);
const minus = (a: readonly number[], b: readonly number[]): number[] => a.map((v, k) => v - b[k]!);

describe('a hold along and about some axes', () => {
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
});
