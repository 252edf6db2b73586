import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { cloudDistance, fitPoints } from '../math/pointFit';
import { makeSkeleton } from '../skeleton/skeleton';
import { figureClip, strideJoints } from '../testing/figure';
import { matchClips } from './matchClips';
import type { MatchInput } from '../math/matchMap';
import { hannWindow, matchMap } from '../math/matchMap';

/** The distance as the paper prints it: the clouds of the window, brought together by the solved floor move. */
function naive(input: MatchInput, i: number, j: number): number {
  const { half } = input;
  const window = hannWindow(half);
  const [p, q, w]: [number[], number[], number[]] = [[], [], []];
  for (let k = -half; k <= half; k++) {
    if (i + k < 0 || j + k < 0 || i + k >= input.outgoingFrames || j + k >= input.incomingFrames) continue;
    for (let n = 0; n < input.joints; n++) {
      const [a, b] = [((i + k) * input.joints + n) * 3, ((j + k) * input.joints + n) * 3];
      p.push(...input.outgoing.subarray(a, a + 3));
      q.push(...input.incoming.subarray(b, b + 3));
      w.push(window[k + half]!);
    }
  }
  const [a, b, weights] = [Float64Array.from(p), Float64Array.from(q), Float64Array.from(w)];
  // A cloud without spread has no direction; any turn is as good.
  return cloudDistance(a, b, weights, fitPoints(a, b, weights) ?? fitPoints(a, b, weights, true)!);
}

/** Frames of the two motions: windows of up to seven lie inside as well as beyond either end. */
const OUT = 13;
const IN = 17;

describe('the map of distances', () => {
  it('is the naive formula within a micrometre, at the ends too', () => {
    // Whole millimetres: clouds whose spread is next to nothing have no direction for the one, and any for the other.
    const place = fc.integer({ min: -3000, max: 3000 }).map((n) => n / 1000);
    fc.assert(
      fc.property(
        fc.array(place, { minLength: 30 * 3 * 3, maxLength: 30 * 3 * 3 }),
        fc.integer({ min: 0, max: 3 }),
        (values, half) => {
          const input: MatchInput = {
            outgoing: Float64Array.from(values.slice(0, OUT * 9)),
            outgoingFrames: OUT,
            incoming: Float64Array.from(values.slice(OUT * 9)),
            incomingFrames: IN,
            joints: 3,
            half,
          };
          const map = matchMap(input);
          for (let i = 0; i < OUT; i++)
            for (let j = 0; j < IN; j++)
              expect(Math.abs(map[i * IN + j]! - naive(input, i, j))).toBeLessThan(1e-6);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('weighs the window as Hann did, positive to its ends', () => {
    const w = hannWindow(4);
    expect(w).toHaveLength(9);
    expect(w[4]).toBe(1);
    w.forEach((v, i) => {
      expect(v).toBeGreaterThan(0);
      expect(v).toBeCloseTo(w[8 - i]!, 12);
    });
  });
});

const walk = (frames: number, phase: number, x: number, id: string, rate = 30) =>
  figureClip(
    frames,
    (f) => ({ x, z: (1.2 * f) / rate, turn: 0.7, joints: strideJoints(2 * Math.PI * (f / rate + phase)) }),
    { id, rate },
  );

describe('matching clips', () => {
  it('finds where two walks are in the same phase, wherever they are', () => {
    const pairs = matchClips(walk(60, 0, 0, 'a'), walk(60, 0.2, 9, 'b'), { top: 5 });
    for (const pair of pairs.slice(0, 3)) {
      expect(pair.distanceCm).toBeLessThan(0.01);
      // A fifth of a cycle of 30 samples: 6 samples apart, whole cycles aside.
      const apart = (((pair.out - pair.in) % 30) + 30) % 30;
      expect(apart).toBe(6);
    }
    expect(pairs.map((p) => p.distanceCm)).toEqual([...pairs.map((p) => p.distanceCm)].sort((a, b) => a - b));
  });

  it('looks only where it is asked to, and gives samples of each clip at its own rate', () => {
    const pairs = matchClips(walk(90, 0, 0, 'a'), walk(120, 0, 3, 'b', 60), {
      outgoing: { start: 60, end: 90 },
      incoming: { start: 0, end: 40 },
    });
    expect(pairs.length).toBeGreaterThan(0);
    for (const { out, in: into } of pairs) {
      expect(out).toBeGreaterThanOrEqual(60);
      expect(into).toBeLessThan(40);
    }
    const [best] = pairs;
    const apart = (best!.out / 30 - best!.in / 60 + 10) % 1;
    expect(Math.min(apart, 1 - apart)).toBeLessThan(0.05);
  });

  it('refuses clips that have too little in common', () => {
    const pole = makeSkeleton({ names: ['a', 'b'], parents: [-1, 0], restTranslations: new Float64Array(6) });
    expect(() =>
      matchClips(
        walk(9, 0, 0, 'a'),
        figureClip(9, () => ({ x: 0, z: 0, turn: 0 }), { skeleton: pole }),
      ),
    ).toThrow(/share only/);
  });
});
