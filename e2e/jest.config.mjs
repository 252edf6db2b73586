import unit from '../jest.config.mjs';

/** The real interface in headless Chromium; the application is built before. */
export default {
  ...unit,
  rootDir: '..',
  roots: ['<rootDir>/e2e'],
  setupFiles: [],
  globalSetup: '<rootDir>/e2e/setUp.mjs',
  globalTeardown: '<rootDir>/e2e/tearDown.mjs',
  // A suite keeps two cores busy by itself: two at once take as long.
  maxWorkers: 1,
  testTimeout: 240_000,
};
