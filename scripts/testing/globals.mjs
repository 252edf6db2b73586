// What tests import from '@jest/globals', which Jest itself offers only to what it has transformed.
export const { afterAll, afterEach, beforeAll, beforeEach, describe } = globalThis;

const jestExpect = globalThis.expect;

/** What is expected of most values, and when a value does as it should; a value that does not is told by Jest. */
const EXPECTED = {
  toBe: Object.is,
  toBeNull: (value) => value === null,
  toBeUndefined: (value) => value === undefined,
  toBeLessThan: (value, than) => areNumbers(value, than) && value < than,
  toBeLessThanOrEqual: (value, than) => areNumbers(value, than) && value <= than,
  toBeGreaterThan: (value, than) => areNumbers(value, than) && value > than,
  toBeGreaterThanOrEqual: (value, than) => areNumbers(value, than) && value >= than,
  toBeCloseTo: (value, to, digits = 2) => areNumbers(value, to) && Math.abs(value - to) < 10 ** -digits / 2,
};

const areNumbers = (a, b) => typeof a === 'number' && typeof b === 'number';

/**
 * One value that something is expected of. Jest makes some sixty functions for each, which would be a tenth of the time of
 * all tests: laws look at hundreds of thousands of values. They are made here only for what is not in the table above.
 */
class Expectation {
  constructor(value) {
    this.value = value;
  }
}

for (const matcher of Object.keys(jestExpect(0))) {
  const isMet = EXPECTED[matcher];
  const own =
    typeof jestExpect(0)[matcher] === 'function'
      ? {
          value(...expected) {
            if (isMet?.(this.value, ...expected)) return undefined;
            return jestExpect(this.value)[matcher](...expected);
          },
        }
      : {
          get: function of() {
            return jestExpect(this.value)[matcher];
          },
        };
  Object.defineProperty(Expectation.prototype, matcher, own);
}

/** Jest's `expect`. */
export const expect = Object.assign((value) => new Expectation(value), jestExpect);

/** The runner waits for ever: a test that has not ended after so many milliseconds has failed. */
const LIMIT = 240_000;

const limited =
  (work) =>
  async (...given) => {
    let timer;
    const late = new Promise((_, fail) => {
      timer = setTimeout(() => fail(new Error(`It has not ended after ${LIMIT / 1000} s.`)), LIMIT);
    });
    try {
      await Promise.race([work(...given), late]);
    } finally {
      clearTimeout(timer);
    }
  };

const own = globalThis.it;

export const it = Object.assign((name, work) => own(name, limited(work)), own, {
  each: (table) => (name, work) => own.each(table)(name, limited(work)),
});
