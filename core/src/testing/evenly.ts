import fc from 'fast-check';

/** Steps between the least and the most number. */
const STEPS = 1 << 24;

/**
 * Real numbers, all parts of the range as likely. `fc.double` draws from the bits of numbers, so that between -3 and 3 nearly
 * all are next to zero, and a law is hardly tried.
 */
export const evenly = (min: number, max: number): fc.Arbitrary<number> =>
  fc.integer({ min: 0, max: STEPS }).map((k) => min + ((max - min) * k) / STEPS);
