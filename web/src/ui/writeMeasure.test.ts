import { describe, expect, it } from '@jest/globals';
import { writeMeasure } from './writeMeasure';

describe('a measure in words', () => {
  it('has the name of what was measured, of seams and of everything else', () => {
    expect(writeMeasure('popCm', 2.5)).toBe('pop 2.5 cm');
    expect(writeMeasure('floatCm', 4)).toBe('float 4.0 cm');
    expect(writeMeasure('floatCm', -4)).toBe('sink 4.0 cm');
    expect(writeMeasure('overlapCm', 4.6)).toBe('overlap 4.6 cm');
    expect(writeMeasure('reachCm', 1.4)).toBe('off by 1.4 cm');
  });
});
