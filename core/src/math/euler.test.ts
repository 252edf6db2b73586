import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Euler, Quaternion } from 'three';
import type { EulerOrder } from './euler';
import { eulerFromQuat, eulerNearest, quatFromEuler } from './euler';
import { quatAngle } from './quaternion';
import { evenly } from '../testing/evenly';

const ORDERS: readonly EulerOrder[] = [
  [0, 1, 2],
  [0, 2, 1],
  [1, 0, 2],
  [1, 2, 0],
  [2, 0, 1],
  [2, 1, 0],
];
const angle = evenly(-Math.PI, Math.PI);

describe('angles in the order of a channel list', () => {
  // Peer: three's Euler (MIT), whose order "XYZ" is the same product.
  it.each(ORDERS)('agree with three for axes %i %i %i', (...order) => {
    fc.assert(
      fc.property(angle, angle, angle, (a, b, c) => {
        const q = quatFromEuler(a, b, c, order, new Float64Array(4), 0);
        const xyz = [0, 0, 0];
        order.forEach((axis, i) => (xyz[axis] = [a, b, c][i]!));
        const name = order.map((axis) => 'XYZ'[axis]).join('') as Euler['order'];
        const peer = new Quaternion().setFromEuler(new Euler(xyz[0], xyz[1], xyz[2], name));
        expect(quatAngle(q, 0, Float64Array.from(peer.toArray()), 0)).toBeLessThan(1e-7);
      }),
    );
  });

  it.each(ORDERS)(
    'are found again from the rotation for axes %i %i %i, straight up and down too',
    (...order) => {
      const middle = fc.oneof(angle, fc.constantFrom(Math.PI / 2, -Math.PI / 2));
      fc.assert(
        fc.property(angle, middle, angle, (a, b, c) => {
          const q = quatFromEuler(a, b, c, order, new Float64Array(4), 0);
          const e = eulerFromQuat(q, 0, order, new Float64Array(3), 0);
          const back = quatFromEuler(e[0]!, e[1]!, e[2]!, order, new Float64Array(4), 0);
          expect(quatAngle(q, 0, back, 0)).toBeLessThan(1e-7);
        }),
      );
    },
  );

  it.each(ORDERS)(
    'are the rotation near a right angle too, of numbers of 32 bits, for axes %i %i %i',
    (...order) => {
      const short = fc.oneof(evenly(-1e-2, 1e-2), evenly(-1e-4, 1e-4), evenly(-1e-6, 1e-6));
      fc.assert(
        fc.property(angle, short, fc.constantFrom(1, -1), angle, (a, off, side, c) => {
          const exact = quatFromEuler(a, (side * Math.PI) / 2 + off, c, order, new Float64Array(4), 0);
          const q = Float64Array.from(Float32Array.from(exact));
          const e = eulerFromQuat(q, 0, order, new Float64Array(3), 0);
          const back = quatFromEuler(e[0]!, e[1]!, e[2]!, order, new Float64Array(4), 0);
          // A hundredth of a degree is 1.7e-4; 32 bits hold an angle to about 1e-7.
          expect(quatAngle(exact, 0, back, 0)).toBeLessThan(1e-6);
        }),
      );
    },
  );

  it('are rewritten to the equal triple nearest to the one before', () => {
    fc.assert(
      fc.property(angle, angle, angle, angle, angle, (a, b, c, p, r) => {
        const order: EulerOrder = [2, 1, 0];
        const before = Float64Array.of(p * 3, r, p);
        const e = eulerNearest(Float64Array.of(a, b, c), 0, before, 0);
        const q = quatFromEuler(a, b, c, order, new Float64Array(4), 0);
        const same = quatFromEuler(e[0]!, e[1]!, e[2]!, order, new Float64Array(4), 0);
        expect(quatAngle(q, 0, same, 0)).toBeLessThan(1e-7);
        const far = (x: number, y: number, z: number): number =>
          Math.abs(x - before[0]!) + Math.abs(y - before[1]!) + Math.abs(z - before[2]!);
        expect(far(e[0]!, e[1]!, e[2]!)).toBeLessThanOrEqual(far(a, b, c) + 1e-9);
      }),
    );
  });
});
