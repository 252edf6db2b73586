// What tests import from '@jest/globals', which Jest itself offers only to what it has transformed.
export const { afterAll, afterEach, beforeAll, beforeEach, describe, expect } = globalThis;

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
