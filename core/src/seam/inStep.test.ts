import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { splineAt, splineSlope } from '../math/spline';
import type { StepEvent } from './inStep';
import { alignSteps } from './inStep';
import { evenly } from '../testing/evenly';

const event = (joint: number, kind: StepEvent['kind'], frame: number): StepEvent => ({ joint, kind, frame });

describe('bringing two sides into step', () => {
  it('lets like steps meet, each side at its own pace where it has full weight', () => {
    const warp = alignSteps([event(3, 'strike', 8)], [event(3, 'strike', 11)], 20);
    if (warp === null || typeof warp === 'string') throw new Error('no warp');
    const meet = Array.from({ length: 2001 }, (_, i) => i / 100).find(
      (f) => splineAt(warp.outgoing, f) >= 8,
    )!;
    expect(splineAt(warp.incoming, meet)).toBeCloseTo(11, 1);
    expect(meet).toBeGreaterThan(8);
    expect(meet).toBeLessThan(11);
    expect([splineAt(warp.outgoing, 0), splineSlope(warp.outgoing, 0)]).toEqual([0, 1]);
    expect([splineAt(warp.incoming, 20), splineSlope(warp.incoming, 20)]).toEqual([20, 1]);
  });

  it('lets them meet where the weights of the crossfade say: near the outgoing step early on, near the incoming one late', () => {
    for (const [out, into] of [
      [2, 4],
      [15, 17],
    ] as const) {
      const warp = alignSteps([event(3, 'strike', out)], [event(3, 'strike', into)], 20);
      if (warp === null || typeof warp === 'string') throw new Error('no warp');
      // Smoothstep of the mean of both (Kovar, Gleicher, Pighin 2002, section 3.2).
      const u = (out + into) / 2 / 20;
      const meet = out + u * u * (3 - 2 * u) * (into - out);
      expect(splineAt(warp.outgoing, meet)).toBeCloseTo(out, 9);
      expect(splineAt(warp.incoming, meet)).toBeCloseTo(into, 9);
    }
  });

  it('stays between half and twice the speed, and never turns back, or says why not', () => {
    const events = fc.array(
      fc.record({
        joint: fc.constantFrom(1, 2),
        kind: fc.constantFrom('strike' as const, 'lift' as const),
        frame: evenly(-8, 24),
      }),
      { maxLength: 5 },
    );
    fc.assert(
      fc.property(events, events, (a, b) => {
        const warp = alignSteps(a, b, 16);
        if (warp === null) return expect(a.length + b.length).toBe(0);
        if (typeof warp === 'string') return expect(warp.length).toBeGreaterThan(10);
        for (const spline of [warp.outgoing, warp.incoming])
          for (let f = 0; f <= 16; f += 0.25) {
            expect(splineSlope(spline, f)).toBeGreaterThanOrEqual(0.5 - 1e-6);
            expect(splineSlope(spline, f)).toBeLessThanOrEqual(2 + 1e-6);
          }
      }),
    );
  });

  it('has nothing to do where nobody steps, and says where the steps are unlike', () => {
    expect(alignSteps([], [], 10)).toBeNull();
    expect(alignSteps([event(1, 'strike', 4)], [event(2, 'strike', 4)], 10)).toMatch(/no like steps/);
    expect(alignSteps([event(1, 'strike', 1)], [event(1, 'strike', 15)], 16)).toMatch(/too far apart/);
  });
});
