import { describe, expect, it } from '@jest/globals';
import { InputError } from './errors';
import { formatRate, framesPerSecond, parseRate } from './rate';

describe('frame rates', () => {
  it.each([
    [30, 30, 1],
    ['25', 25, 1],
    ['30000/1001', 30000, 1001],
    [29.97, 30000, 1001],
    [23.976, 24000, 1001],
    [12.5, 12500, 1000],
  ])('reads %p', (text, num, den) => {
    expect(parseRate(text)).toEqual({ num, den });
    expect(framesPerSecond(parseRate(formatRate(parseRate(text))))).toBe(num / den);
  });

  it.each([0, -30, 'fast', '30/0', '', 20000])('refuses %p', (text) => {
    expect(() => parseRate(text)).toThrow(InputError);
  });
});
