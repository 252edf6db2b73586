import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { smoothGaussian, unwrapAngles } from './smoothing';
import { evenly } from '../testing/evenly';

describe('smoothing', () => {
  it('lets a straight ramp pass, to its very ends', () => {
    const ramp = Float64Array.from({ length: 20 }, (_, i) => 3 + 0.25 * i);
    smoothGaussian(ramp, 4).forEach((v, i) => expect(v).toBeCloseTo(ramp[i]!, 10));
  });

  it('never leaves the range of what it smooths by more than its odd reflection, and keeps constants', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), evenly(0, 9), (n, sigma) => {
        const out = smoothGaussian(new Float64Array(n).fill(7), sigma);
        expect(out).toHaveLength(n);
        out.forEach((v) => expect(v).toBeCloseTo(7, 10));
      }),
    );
  });

  it('calms jitter', () => {
    const jitter = Float64Array.from({ length: 60 }, (_, i) => (i % 2 ? 1 : -1));
    const calm = smoothGaussian(jitter, 3).slice(15, 45);
    calm.forEach((v) => expect(Math.abs(v)).toBeLessThan(0.01));
  });
});

describe('unwrapping', () => {
  it('gives back a turning heading from its wrapped values', () => {
    fc.assert(
      fc.property(fc.array(evenly(-3, 3), { minLength: 2, maxLength: 50 }), (steps) => {
        let heading = 0;
        const true_ = [0, ...steps.map((s) => (heading += s))];
        const wrapped = Float64Array.from(true_, (h) => Math.atan2(Math.sin(h), Math.cos(h)));
        unwrapAngles(wrapped).forEach((h, i) => expect(h).toBeCloseTo(true_[i]!, 6));
      }),
    );
  });
});
