import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { quatAngle, quatFromAxis, quatMultiply, quatNormalize } from '../math/quaternion';
import { DECAY_SIZE, decayAt, rotationBetween, turnAbout, writeDecay, writeVectorDecay } from './settle';
import { evenly } from '../testing/evenly';

const number = (min: number, max: number) => evenly(min, max);
const unit = fc
  .array(number(-1, 1), { minLength: 4, maxLength: 4 })
  .map((v) => quatNormalize(Float64Array.from(v), 0) as Float64Array);

describe('decays', () => {
  // Bollo, GDC 2018: what the quintic must meet at its two ends.
  it('start with the value and the slope, and end with value, slope and acceleration zero', () => {
    fc.assert(
      fc.property(number(0.001, 2), number(-3, 3), number(0.1, 0.6), (x0, v0, t1) => {
        const d = writeDecay(x0, v0, t1, new Float64Array(DECAY_SIZE), 0);
        const end = d[6]!;
        const e = 1e-4 * end;
        expect(end).toBeLessThanOrEqual(t1 + 1e-12);
        expect(decayAt(d, 0, 0)).toBeCloseTo(x0, 9);
        expect((decayAt(d, 0, e) - decayAt(d, 0, 0)) / e).toBeCloseTo(v0, 0);
        const near = [decayAt(d, 0, end - e), decayAt(d, 0, end - 2 * e)];
        expect(Math.abs(near[0]!)).toBeLessThan(1e-7 * (x0 + Math.abs(v0)) + 1e-9);
        expect(Math.abs(near[0]! - near[1]!) / e).toBeLessThan(1e-2 * (x0 / end + Math.abs(v0)));
        expect(decayAt(d, 0, end + 1)).toBe(0);
      }),
    );
  });

  it('never cross zero on the way down', () => {
    fc.assert(
      fc.property(number(0, 2), number(-20, 3), number(0.05, 0.6), number(0, 1), (x0, v0, t1, u) => {
        const d = writeDecay(x0, v0, t1, new Float64Array(DECAY_SIZE), 0);
        expect(decayAt(d, 0, u * t1)).toBeGreaterThan(-1e-6);
      }),
    );
  });

  it('of nothing are nothing', () => {
    const d = writeDecay(0, -1, 0.3, new Float64Array(DECAY_SIZE), 0);
    expect(decayAt(d, 0, 0.1)).toBe(0);
    const axis = new Float64Array(3);
    writeVectorDecay([0, 0, 0], [0, 0, 0], 0.3, axis, 0, d, 0);
    expect(decayAt(d, 0, 0)).toBe(0);
    expect([...axis]).toEqual([0, 0, 0]);
  });

  it('take the direction of the speed where there is no difference in place', () => {
    const [axis, d] = [new Float64Array(3), new Float64Array(DECAY_SIZE)];
    writeVectorDecay([0, 0, 0], [0, 2, 0], 0.3, axis, 0, d, 0);
    expect([...axis]).toEqual([0, 1, 0]);
    expect(decayAt(d, 0, 0.01)).toBeGreaterThan(0.015);
  });
});

describe('rotations between', () => {
  it('take one to the other, the shorter way', () => {
    fc.assert(
      fc.property(unit, unit, (a, b) => {
        const v = rotationBetween(a, 0, b, 0, new Float64Array(3), 0);
        const angle = Math.hypot(...v);
        expect(angle).toBeLessThanOrEqual(Math.PI + 1e-9);
        const axis = v.map((x) => (angle > 0 ? x / angle : 0));
        const q = b.slice();
        turnAbout(axis, 0, angle, q, 0);
        expect(quatAngle(q, 0, a, 0)).toBeLessThan(1e-6);
        const same = quatMultiply(
          quatFromAxis(axis[0]!, axis[1]!, axis[2]!, angle, new Float64Array(4), 0),
          0,
          b,
          0,
          new Float64Array(4),
          0,
        );
        expect(quatAngle(same, 0, a, 0)).toBeLessThan(1e-6);
      }),
    );
  });
});
