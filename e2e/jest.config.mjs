import unit from '../jest.config.mjs';

/** The real interface in headless Chromium; the application is built before. */
export default {
  ...unit,
  rootDir: '..',
  roots: ['<rootDir>/e2e'],
  globalSetup: '<rootDir>/e2e/setUp.mjs',
  globalTeardown: '<rootDir>/e2e/tearDown.mjs',
  // A suite keeps a core and a half busy by itself. Two at once take three quarters of the time on two cores, but what a
  // suite waits for then comes late where the machine has other work.
  maxWorkers: Number(process.env.E2E_WORKERS ?? 1),
};
