import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { parseRate } from '../math/rate';
import { figureClip } from '../testing/figure';
import { segmentOf } from '../testing/scenes';
import { samplesAt, timeMap } from './timeMap';
import { segmentTiming } from './timing';
import { evenly } from '../testing/evenly';

const clip = figureClip(31, (f) => ({ x: 0, z: 0.1 * f, turn: 0 }));
const mapOf = (values: Parameters<typeof segmentOf>[1], rate = 30) => {
  const segment = segmentOf(clip, values);
  const timing = segmentTiming(segment, clip, parseRate(rate));
  return { map: timeMap(segment, timing), timing };
};

describe('how clip time runs', () => {
  it('is one sample a frame at the clip’s own rate, and goes on beyond both ends', () => {
    const { map } = mapOf({});
    for (const f of [-3, 0, 12.5, 30, 40]) expect(samplesAt(map, f)).toBeCloseTo(f, 12);
  });

  it('runs backwards from the last sample to the first', () => {
    const { map, timing } = mapOf({ reverse: true });
    expect(timing.frames).toBe(31);
    expect(samplesAt(map, 0)).toBeCloseTo(30, 12);
    expect(samplesAt(map, 30)).toBeCloseTo(0, 12);
  });

  it('holds both ends on top of what it fills', () => {
    const { map, timing } = mapOf({ hold: { start: 10, end: 5 } });
    expect(timing.frames).toBe(31 + 15);
    for (const f of [-4, 0, 9.5, 10]) expect(samplesAt(map, f)).toBe(0);
    expect(samplesAt(map, 25)).toBe(15);
    for (const f of [40, 43.2, 60]) expect(samplesAt(map, f)).toBe(30);
  });

  it('a single sample with a held end is a freeze', () => {
    const { map, timing } = mapOf({ in: 12, out: 13, hold: { start: 0, end: 49 } });
    expect(timing.frames).toBe(50);
    for (let f = 0; f < 50; f++) expect(samplesAt(map, f)).toBe(0);
  });

  it('ramps keep the ends and the number of frames, and never turn back', () => {
    const handle = fc.tuple(evenly(0.05, 0.95), evenly(0, 1));
    fc.assert(
      fc.property(handle, fc.boolean(), fc.constantFrom(24, 30, 60), (point, reverse, rate) => {
        const { map, timing } = mapOf({ speedCurve: [point], reverse }, rate);
        expect(timing.frames).toBe(mapOf({}, rate).timing.frames);
        const even = mapOf({ reverse }, rate).map;
        expect(samplesAt(map, 0)).toBeCloseTo(samplesAt(even, 0), 9);
        expect(samplesAt(map, timing.frames)).toBeCloseTo(samplesAt(even, timing.frames), 9);
        for (let f = 1; f <= timing.frames; f++) {
          const step = samplesAt(map, f) - samplesAt(map, f - 1);
          expect(reverse ? -step : step).toBeGreaterThanOrEqual(-1e-9);
        }
      }),
    );
  });
});
