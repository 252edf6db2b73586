import { describe, expect, it } from '@jest/globals';
import { figureClip } from '../testing/figure';
import { floorPath, measureSteps } from './stepMeasures';

describe('slide of steps', () => {
  it('is the way of the joint that carries the foot', () => {
    const still = figureClip(40, () => ({ x: 0, z: 0, turn: 0 }));
    for (const step of measureSteps(still, 100))
      expect(step).toMatchObject({ start: 100, end: 140, slideCm: 0 });
    const creep = figureClip(40, (f) => ({ x: 0.001 * f, z: 0, turn: 0 }));
    const toes = measureSteps(creep).filter((s) => s.joint === 'leftToes');
    expect(toes).toHaveLength(1);
    expect(toes[0]!.slideCm).toBeCloseTo(3.9, 3);
    // The ankle does not carry the foot while the toes do.
    expect(measureSteps(creep).find((s) => s.joint === 'leftFoot')!.slideCm).toBe(0);
  });

  it('counts the way on the floor only', () => {
    const tracks = Float64Array.of(0, 0, 0, 0.03, 9, 0.04, 0.03, 0, 0.04);
    expect(floorPath(tracks, 1, 0, { start: 0, end: 3 })).toBeCloseTo(0.05, 9);
    expect(floorPath(tracks, 1, 0, { start: 1, end: 2 })).toBe(0);
  });
});
