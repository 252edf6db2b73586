import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { parseNumber } from './parseNumber';
import { evenly } from '../../../core/src/testing/evenly';

describe('number fields', () => {
  it.each<[string, number | null]>([
    ['124+54', 178],
    ['2*(3+4)', 14],
    ['-5', -5],
    ['10-2-3', 5],
    ['1/4', 0.25],
    ['1,5', 1.5],
    ['.5', 0.5],
    ['2s', 60],
    ['2s+10f', 70],
    ['00:00:02:10', 70],
    ['00:00:02:10+5f', 75],
    ['1:00', 30],
    ['0:30', null],
    ['30°', 30],
    ['2.5x', 2.5],
    ['12cm', 0.12],
    ['', null],
    ['walk', null],
    ['1+', null],
    ['(1', null],
    ['1/0', null],
    ['1 2', null],
    ['3 kg', null],
  ])('%j is %p', (text, value) => {
    const read = parseNumber(text, { framesPerSecond: 30 });
    if (value === null) expect(read).toBeNull();
    else expect(read).toBeCloseTo(value, 9);
  });

  it('refuses units of time where there is no time', () => {
    expect(parseNumber('2s')).toBeNull();
    expect(parseNumber('00:00:02:10')).toBeNull();
  });

  it('reads every number that it could have shown, and throws at nothing', () => {
    fc.assert(
      fc.property(evenly(-1e6, 1e6), (v) =>
        expect(parseNumber(v.toFixed(4))).toBeCloseTo(Number(v.toFixed(4)), 3),
      ),
    );
    fc.assert(
      fc.property(fc.string(), (s) =>
        expect([null, 'number']).toContain(parseNumber(s) === null ? null : typeof parseNumber(s)),
      ),
    );
  });
});
