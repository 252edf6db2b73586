import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { makeSkeleton } from '../skeleton/skeleton';
import { figureClip, figureSkeleton } from '../testing/figure';
import { findSteps, unite } from './steps';
import { evenly } from '../testing/evenly';

/** A body that hops from spot to spot: still for `rest` samples, in the air for `air`, a metre on. */
const hops = (
  rest: number,
  air: number,
  count: number,
  options: { spike?: number; rate?: number; floor?: number } = {},
) =>
  figureClip(
    (rest + air) * count,
    (f) => {
      const hop = Math.floor(f / (rest + air));
      const u = Math.max(0, ((f % (rest + air)) - rest + 1) / (air + 1));
      const ease = u * u * (3 - 2 * u);
      const lift = 0.3 * Math.sin(Math.PI * u) + (options.floor ?? 0);
      return { x: 0, y: 0.95 + lift + (f === options.spike ? 0.4 : 0), z: hop + ease, turn: 0 };
    },
    { rate: options.rate },
  );

describe('steps', () => {
  it('are the spans in which the feet rest, of both feet and their joints', () => {
    const steps = findSteps(hops(20, 15, 3));
    expect(steps.joints.map((j) => j.role)).toEqual(['leftFoot', 'leftToes', 'rightFoot', 'rightToes']);
    for (const foot of [steps.leftFoot, steps.rightFoot]) {
      expect(foot).toHaveLength(3);
      foot.forEach((span, i) => {
        expect(Math.abs(span.start - i * 35)).toBeLessThanOrEqual(2);
        expect(Math.abs(span.end - (i * 35 + 20))).toBeLessThanOrEqual(2);
      });
    }
  });

  it('are found at any rate, and over whatever floor the clip has', () => {
    fc.assert(
      fc.property(fc.constantFrom(24, 30, 60, 120), evenly(-0.3, 0.5), (rate, floor) => {
        const k = rate / 30;
        const steps = findSteps(hops(20 * k, 15 * k, 3, { rate, floor }));
        expect(steps.leftFoot).toHaveLength(3);
      }),
      { numRuns: 30 },
    );
  });

  it('are not broken by a single bad sample', () => {
    expect(findSteps(hops(30, 15, 2, { spike: 12 })).leftFoot).toEqual(findSteps(hops(30, 15, 2)).leftFoot);
  });

  it('go on over a twitch, and end where the foot is up for longer', () => {
    const twitch = (height: number, width: number) =>
      figureClip(
        240,
        (f) => ({ x: 0, y: 0.95 + height * Math.exp(-(((f - 120) / width) ** 2)), z: 0, turn: 0 }),
        { rate: 240 },
      );
    expect(findSteps(twitch(0.04, 5)).leftFoot).toEqual([{ start: 0, end: 240 }]);
    expect(findSteps(twitch(0.3, 20)).leftFoot).toHaveLength(2);
  });

  it('last 80 ms at least: a foot that only brushes the floor takes no step', () => {
    const spans = (rest: number): number =>
      findSteps(hops(rest, 80 - rest, 3, { rate: 120 })).leftFoot.length;
    expect(spans(12)).toBe(0);
    expect(spans(24)).toBe(3);
  });

  it('are cut where the feet creep', () => {
    const shuffle = figureClip(120, (f) => ({ x: 0, z: 0.006 * f, turn: 0 }));
    const { leftFoot, joints } = findSteps(shuffle);
    expect(leftFoot).toEqual([{ start: 0, end: 120 }]);
    const ankle = joints.find((j) => j.role === 'leftFoot')!;
    expect(ankle.spans.length).toBeGreaterThan(4);
    // 8 % of the leg's length is as far as one piece may creep.
    for (const span of ankle.spans) expect((span.end - span.start - 1) * 0.006).toBeLessThan(0.08 * 0.9);
  });

  it('are none without legs, and none in a single pose', () => {
    const pole = makeSkeleton({
      names: ['hips', 'head'],
      parents: [-1, 0],
      restTranslations: [0, 1, 0, 0, 0.5, 0],
    });
    expect(findSteps(figureClip(10, () => ({ x: 0, z: 0, turn: 0 }), { skeleton: pole })).joints).toEqual([]);
    expect(findSteps(figureClip(1, () => ({ x: 0, z: 0, turn: 0 }))).leftFoot).toEqual([]);
    expect(figureSkeleton().names).toContain('leftFoot');
  });
});

describe('the union of spans', () => {
  it('covers just what they cover, in order and apart', () => {
    const span = fc
      .tuple(fc.nat(60), fc.integer({ min: 1, max: 15 }))
      .map(([start, length]) => ({ start, end: start + length }));
    fc.assert(
      fc.property(fc.array(span, { maxLength: 12 }), (spans) => {
        const united = unite(spans);
        for (let f = 0; f < 80; f++) {
          const inside = (list: readonly { start: number; end: number }[]): boolean =>
            list.some((s) => f >= s.start && f < s.end);
          expect(inside(united)).toBe(inside(spans));
        }
        united.forEach((s, i) => i > 0 && expect(s.start).toBeGreaterThan(united[i - 1]!.end));
      }),
    );
  });
});
