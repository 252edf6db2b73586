import { describe, expect, it } from '@jest/globals';
import { SNAP_PIXELS, STEP_SNAP_PIXELS, snap, tickSteps } from './geometry';

describe('ticks', () => {
  it('stand apart enough to be read, from a whole piece to a frame', () => {
    for (const fps of [24, 30, 60]) {
      for (const ppf of [0.15, 0.5, 1.25, 4, 24]) {
        const { label, fine } = tickSteps(ppf, fps);
        expect(label * ppf).toBeGreaterThanOrEqual(Math.min(72, fps * 120 * ppf));
        expect(label % fine).toBe(0);
        expect(fine * ppf).toBeGreaterThan(1.4);
      }
    }
  });
});

describe('snapping', () => {
  const targets = [
    { frame: 100, pixels: SNAP_PIXELS },
    { frame: 104, pixels: STEP_SNAP_PIXELS },
  ];
  it('takes the nearest target within its distance on the screen', () => {
    expect(snap(97, targets, 2)).toBe(100);
    expect(snap(96, targets, 2)).toBeNull();
    expect(snap(103, targets, 2)).toBe(104);
    expect(snap(110, targets, 1)).toBeNull();
    expect(snap(103, [], 2)).toBeNull();
  });

  it('of two at the same place takes the one that draws from further', () => {
    const twice = [
      { frame: 50, pixels: STEP_SNAP_PIXELS },
      { frame: 50, pixels: SNAP_PIXELS },
    ];
    expect(snap(56, twice, 1)).toBe(50);
  });
});
