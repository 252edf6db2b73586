import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { Quaternion, Vector3 } from 'three';
import {
  quatAngle,
  quatBetween,
  quatFromAxis,
  quatFromBasis,
  quatMultiply,
  quatRotate,
  quatSlerp,
  quatTurn,
} from './quaternion';
import { matrixFromQuat } from './euler';
import { evenly } from '../testing/evenly';

const unit = fc
  .tuple(evenly(-1, 1), evenly(-1, 1), evenly(-1, 1), evenly(-1, 1))
  .filter((q) => Math.hypot(...q) > 0.1)
  .map((q) => Float64Array.from(q.map((v) => v / Math.hypot(...q))));
const three = (q: Float64Array): Quaternion => new Quaternion(q[0], q[1], q[2], q[3]);
const near = (q: Float64Array, other: Quaternion, radians = 1e-7): void => {
  expect(quatAngle(q, 0, Float64Array.from(other.toArray()), 0)).toBeLessThan(radians);
};

// Peer: three's Quaternion (MIT).
describe('quaternions agree with three', () => {
  it('product and rotation of vectors', () => {
    fc.assert(
      fc.property(unit, unit, (a, b) => {
        near(quatMultiply(a, 0, b, 0, new Float64Array(4), 0) as Float64Array, three(a).multiply(three(b)));
        const v = quatRotate(a, 0, Float64Array.of(0.3, -1, 2), 0, new Float64Array(3), 0);
        const w = new Vector3(0.3, -1, 2).applyQuaternion(three(a));
        expect(Math.hypot(v[0]! - w.x, v[1]! - w.y, v[2]! - w.z)).toBeLessThan(1e-12);
      }),
    );
  });

  it('slerp, the shorter way, and whichever sign the arguments have', () => {
    fc.assert(
      fc.property(unit, unit, evenly(0, 1), (a, b, t) => {
        const expected = three(a).slerp(three(b), t);
        const out = quatSlerp(a, 0, b, 0, t, new Float64Array(4), 0) as Float64Array;
        // Half a turn apart there are two shortest ways; either is right.
        fc.pre(quatAngle(a, 0, b, 0) < Math.PI - 1e-3);
        // Where the two are nearly the same, three interpolates linearly.
        near(out, expected, Math.abs(three(a).dot(three(b))) < 0.9995 ? 1e-7 : 1e-5);
        const negated = quatSlerp(
          a,
          0,
          b.map((v) => -v),
          0,
          t,
          new Float64Array(4),
          0,
        ) as Float64Array;
        expect(quatAngle(out, 0, negated, 0)).toBeLessThan(1e-7);
      }),
    );
  });
});

describe('laws of quaternions', () => {
  it('interpolates neighbouring samples within 0.01 degree of slerp', () => {
    fc.assert(
      fc.property(unit, unit, evenly(0, 1), (a, b, t) => {
        const s = quatSlerp(a, 0, b, 0, t, new Float64Array(4), 0) as Float64Array;
        const n = quatBetween(a, 0, b, 0, t, new Float64Array(4), 0) as Float64Array;
        expect((quatAngle(s, 0, n, 0) * 180) / Math.PI).toBeLessThan(0.01);
      }),
      { numRuns: 500 },
    );
  });

  it('stays within 0.01 degree up to the angle at which it changes over', () => {
    const a = Float64Array.of(0, 0, 0, 1);
    const b = quatFromAxis(0, 1, 0, (11.99 * Math.PI) / 180, new Float64Array(4), 0);
    for (let t = 0; t <= 1; t += 0.05) {
      const s = quatSlerp(a, 0, b, 0, t, new Float64Array(4), 0);
      const n = quatBetween(a, 0, b, 0, t, new Float64Array(4), 0);
      expect((quatAngle(s, 0, n, 0) * 180) / Math.PI).toBeLessThan(0.01);
    }
  });

  it('turns about the vertical as a product with Ry does', () => {
    fc.assert(
      fc.property(unit, evenly(-7, 7), (q, turn) => {
        const ry = quatFromAxis(0, 1, 0, turn, new Float64Array(4), 0);
        const expected = quatMultiply(ry, 0, q, 0, new Float64Array(4), 0);
        expect(quatAngle(quatTurn(q.slice(), 0, turn), 0, expected, 0)).toBeLessThan(1e-7);
      }),
    );
  });

  it('is found again from its matrix', () => {
    fc.assert(
      fc.property(unit, (q) => {
        const m = matrixFromQuat(q, 0, new Float64Array(9));
        const column = (c: number): number[] => [m[c]!, m[3 + c]!, m[6 + c]!];
        const back = quatFromBasis(column(0), column(1), column(2), new Float64Array(4), 0);
        expect(quatAngle(q, 0, back, 0)).toBeLessThan(1e-7);
      }),
    );
  });
});
