import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { parseRate } from './rate';
import { frameOfTimecode, hasDropFrames, timecodeOf } from './timecode';

const ntsc = parseRate('30000/1001');

describe('timecode', () => {
  // SMPTE ST 12-1, drop-frame counting at 30000/1001: numbers 0 and 1 are left out at the start of every minute but each
  // tenth, so that an hour has 107 892 frames (from memory).
  it.each<[number, string]>([
    [0, '00:00:00;00'],
    [1799, '00:00:59;29'],
    [1800, '00:01:00;02'],
    [17981, '00:09:59;29'],
    [17982, '00:10:00;00'],
    [107892, '01:00:00;00'],
  ])('drops numbers at 30000/1001: frame %d is %s', (frame, text) => {
    expect(timecodeOf(frame, ntsc)).toBe(text);
    expect(frameOfTimecode(text, ntsc)).toBe(frame);
  });

  it('counts every number at other rates, and where it is asked to', () => {
    expect(timecodeOf(90, parseRate(30))).toBe('00:00:03:00');
    expect(timecodeOf(24 * 3600 + 5, parseRate(24))).toBe('01:00:00:05');
    expect(timecodeOf(1800, ntsc, false)).toBe('00:01:00:00');
    expect(timecodeOf(100, parseRate('24000/1001'))).toBe('00:00:04:04');
    expect(hasDropFrames(parseRate('60000/1001'))).toBe(true);
    expect(hasDropFrames(parseRate('24000/1001'))).toBe(false);
  });

  it('is read back as the same frame, dropped or not', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 3_000_000 }),
        fc.constantFrom('24', '25', '30', '60', '30000/1001', '60000/1001', '24000/1001'),
        fc.boolean(),
        (frame, rate, drop) => {
          const r = parseRate(rate.includes('/') ? rate : Number(rate));
          expect(frameOfTimecode(timecodeOf(frame, r, drop), r)).toBe(frame);
        },
      ),
    );
  });

  it('refuses numbers that do not exist', () => {
    for (const text of ['00:01:00;00', '00:00:61:00', '00:00:00:30', 'walk', '12', '1:2:3:4:5'])
      expect(frameOfTimecode(text, ntsc)).toBeNull();
    expect(frameOfTimecode('2:10', parseRate(30))).toBe(70);
  });
});
