import { describe, expect, it } from '@jest/globals';
import { leadCurve } from './leadCurve';

const lengthOf = (points: Float32Array): number => {
  let sum = 0;
  for (let o = 3; o < points.length; o += 3)
    sum += Math.hypot(
      points[o]! - points[o - 3]!,
      points[o + 1]! - points[o - 2]!,
      points[o + 2]! - points[o - 1]!,
    );
  return sum;
};

describe('a lead as it is drawn', () => {
  it('is straight where it is taut, and about as long as it is where it hangs', () => {
    const taut = leadCurve([0, 1, 0], [0, 1, 2], 1.5, 3);
    expect([...taut]).toEqual([0, 1, 0, 0, 1, 1, 0, 1, 2]);
    const hanging = leadCurve([0, 2, 0], [1.5, 1.8, 0.4], 1.7, 60);
    expect(lengthOf(hanging)).toBeGreaterThan(1.68);
    expect(lengthOf(hanging)).toBeLessThan(1.73);
  });

  it('lies on the floor and never in it', () => {
    const slack = leadCurve([0, 0.9, 0], [0.3, 0.5, 0], 3, 30);
    for (let o = 1; o < slack.length; o += 3) expect(slack[o]).toBeGreaterThan(0.009);
  });
});
