import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { quatAngle, quatBetween, quatNormalize, quatSlerp } from './quaternion';
import { betweenRotations, slerpRotations } from './rotations';
import { evenly } from '../testing/evenly';

const COUNT = 6;
const pose = fc.array(evenly(-1, 1), { minLength: COUNT * 4, maxLength: COUNT * 4 }).map((v) => {
  const q = Float64Array.from(v);
  for (let i = 0; i < COUNT; i++) quatNormalize(q, i * 4);
  return q;
});
const part = evenly(0, 1);

describe('blends of whole poses', () => {
  it('are those of single quaternions', () => {
    fc.assert(
      fc.property(pose, pose, part, (a, b, t) => {
        const between = betweenRotations(a, 0, b, 0, COUNT, t, new Float64Array(COUNT * 4));
        const slerped = slerpRotations(a.slice(), b, COUNT, t);
        const q = new Float64Array(4);
        for (let i = 0; i < COUNT * 4; i += 4) {
          expect(quatAngle(between, i, quatBetween(a, i, b, i, t, q, 0), 0)).toBeLessThan(1e-7);
          expect(quatAngle(slerped, i, quatSlerp(a, i, b, i, t, q, 0), 0)).toBeLessThan(1e-7);
        }
      }),
    );
  });

  it('by series are those by sines, at every angle up to where it is used', () => {
    for (let degrees = 0.01; degrees < 52; degrees += 0.5) {
      const half = (degrees * Math.PI) / 360;
      const b = Float64Array.of(0, Math.sin(half), 0, Math.cos(half));
      for (let t = 0; t <= 1; t += 0.1) {
        const q = slerpRotations(Float64Array.of(0, 0, 0, 1), b, 1, t);
        expect(Math.abs(q[1]! - Math.sin(t * half))).toBeLessThan(2e-11);
        expect(Math.abs(q[3]! - Math.cos(t * half))).toBeLessThan(2e-11);
      }
    }
  });

  it('leave poses that are equal as they are', () => {
    fc.assert(
      fc.property(pose, part, (a, t) => {
        slerpRotations(a.slice(), a, COUNT, t).forEach((v, i) => expect(v).toBeCloseTo(a[i]!, 12));
      }),
    );
  });
});
