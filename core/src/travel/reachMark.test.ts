import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { evenly } from '../testing/evenly';
import { HONEST_STRIDES, reachMark } from './reachMark';

const walk = { cycleDistance: 1.3, cycleFrames: 30 };

describe('hitting a mark by whole cycles', () => {
  it('takes as many as it is far, as they were recorded', () => {
    expect(reachMark({ ...walk, distance: 5.2, frames: 120 })).toEqual({ cycles: 4, stride: 1, pace: 1 });
  });

  it('shares what is left between strides and pace', () => {
    const reached = reachMark({ ...walk, distance: 5.7, frames: 126 });
    expect(reached).toMatchObject({ cycles: 4 });
    expect((reached as { stride: number }).stride).toBeCloseTo(5.7 / 5.2, 9);
  });

  it('says when it could be hit, where it cannot be then', () => {
    expect(reachMark({ ...walk, distance: 5.2, frames: 60 })).toEqual({ cycles: null, frames: 120 });
    expect(reachMark({ ...walk, distance: 0.5, frames: 30 })).toEqual({ cycles: null, frames: null });
    expect(reachMark({ ...walk, cycleDistance: 0, distance: 2, frames: 30 })).toEqual({
      cycles: null,
      frames: null,
    });
  });

  it('never goes beyond honest limits, and finds a way wherever there is one', () => {
    fc.assert(
      fc.property(evenly(0.2, 12), fc.integer({ min: 5, max: 400 }), (distance, frames) => {
        const reached = reachMark({ ...walk, distance, frames });
        const within = (v: number): boolean =>
          v >= HONEST_STRIDES.least - 1e-6 && v <= HONEST_STRIDES.most + 1e-6;
        if (reached.cycles !== null) {
          expect(within(reached.stride) && within(reached.pace)).toBe(true);
          expect(reached.stride * reached.cycles * walk.cycleDistance).toBeCloseTo(distance, 9);
          return;
        }
        for (let n = 1; n < 40; n++)
          expect(within(distance / (n * 1.3)) && within((n * 30) / frames)).toBe(false);
      }),
    );
  });
});
