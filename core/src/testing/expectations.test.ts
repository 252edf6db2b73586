import { describe, expect, it } from '@jest/globals';

/** Whether what is expected is told to be otherwise. */
async function fails(expectation: () => unknown): Promise<boolean> {
  try {
    await expectation();
    return false;
  } catch {
    return true;
  }
}

describe('what tests expect', () => {
  it.each<[name: string, expectation: () => unknown]>([
    ['toBe', () => expect(1).toBe(2)],
    ['toBe of zeros', () => expect(-0).toBe(0)],
    ['toBeNull', () => expect(undefined).toBeNull()],
    ['toBeUndefined', () => expect(null).toBeUndefined()],
    ['toBeLessThan', () => expect(2).toBeLessThan(2)],
    ['toBeLessThan of no number', () => expect(NaN).toBeLessThan(2)],
    ['toBeLessThanOrEqual', () => expect(3).toBeLessThanOrEqual(2)],
    ['toBeGreaterThan', () => expect(2).toBeGreaterThan(2)],
    ['toBeGreaterThan of nothing', () => expect(undefined as unknown as number).toBeGreaterThan(-1)],
    ['toBeGreaterThanOrEqual', () => expect(1).toBeGreaterThanOrEqual(2)],
    ['toBeCloseTo', () => expect(3).toBeCloseTo(3.006)],
    ['toBeCloseTo of more digits', () => expect(3).toBeCloseTo(3.00006, 4)],
    ['toBeCloseTo without end', () => expect(Infinity).toBeCloseTo(1)],
    ['toEqual', () => expect([1, { a: 2 }]).toEqual([1, { a: 3 }])],
    ['toMatchObject', () => expect({ a: 1 }).toMatchObject({ a: 2 })],
    ['toThrow', () => expect(() => 1).toThrow()],
    ['not', () => expect(1).not.toBe(1)],
    ['not of nothing', () => expect(null).not.toBeNull()],
    ['rejects', () => expect(Promise.resolve(1)).rejects.toThrow()],
    ['resolves', () => expect(Promise.resolve(1)).resolves.toBe(2)],
  ])('is told where it is not so: %s', async (_, expectation) => {
    if (!(await fails(expectation))) throw new Error('Nothing is told.');
  });

  it('is said of no value that is so', async () => {
    expect(NaN).toBe(NaN);
    expect(Infinity).toBeCloseTo(Infinity);
    expect(3).toBeCloseTo(3.0049);
    expect(2).toBeLessThanOrEqual(2);
    expect([1]).toEqual(expect.arrayContaining([1]));
    await expect(Promise.resolve(1)).resolves.toBe(1);
  });
});
