import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { parseRate } from '../math/rate';
import { figureClip, strideJoints } from '../testing/figure';
import { segmentOf } from '../testing/scenes';
import { segmentTiming } from './timing';
import { evenly } from '../testing/evenly';

const walk = figureClip(31, (f) => ({
  x: 0,
  z: (1.3 * f) / 30,
  turn: 0,
  joints: strideJoints((2 * Math.PI * f) / 30),
}));
const frames = (values: object, rate: number | string = 30, clip = walk): number =>
  segmentTiming(segmentOf(clip, values), clip, parseRate(rate)).frames;

describe('the frames that a segment fills', () => {
  it('a whole clip at its own rate fills its samples', () => {
    expect(frames({})).toBe(31);
  });

  it('a 31-sample walk whose last sample doubles its first fills 90 frames in three repeats', () => {
    expect(frames({ loop: true, repeat: 3 })).toBe(90);
  });

  it('a walk with a period of 31 frames fills 93 in three repeats', () => {
    // Practice: a walk with a period of 31 frames, three times, is 93 frames.
    const open = figureClip(31, (f) => ({
      x: 0,
      z: f / 31,
      turn: 0,
      joints: strideJoints((2 * Math.PI * f) / 31),
    }));
    expect(frames({ loop: true, repeat: 3 }, 30, open)).toBe(93);
  });

  it('frames 1 to 75 are 74 frames of motion', () => {
    // Practice: 75 samples are 74 steps; they fill 75 frames of a timeline.
    const clip = figureClip(75, (f) => ({ x: 0, z: f, turn: 0 }));
    const timing = segmentTiming(segmentOf(clip), clip, parseRate(30));
    expect(timing.frames).toBe(75);
    expect((timing.frames - 1) * timing.samplesPerFrame).toBe(74);
  });

  it.each([
    [{ speed: 2 }, 30, 16],
    [{ speed: 0.5 }, 30, 62],
    [{ in: 10, out: 20 }, 30, 10],
    [{}, 24, 25],
    [{}, '30000/1001', 31],
    [{ length: 100 }, 30, 100],
    [{ loop: true, repeat: 2.5 }, 30, 75],
    [{ speed: 1000 }, 30, 1],
  ])('%j at %p frames a second fills %i', (values, rate, expected) => {
    expect(frames(values, rate)).toBe(expected);
  });

  it('a length sets the speed so that the whole part is played', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), evenly(0.25, 5), (length, repeat) => {
        const t = segmentTiming(segmentOf(walk, { length, repeat, loop: true }), walk, parseRate(30));
        expect(t.frames).toBe(length);
        expect(t.frames * t.samplesPerFrame).toBeCloseTo(t.period * repeat, 6);
        expect(t.samplesPerFrame).toBeCloseTo((walk.rate * t.speed) / 30, 9);
      }),
    );
  });

  it('N repeats of a loop of P frames fill exactly N P', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 300 }), (n) => {
        expect(frames({ loop: true, repeat: n })).toBe(30 * n);
      }),
    );
  });
});
