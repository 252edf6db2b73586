import unit from '../jest.config.mjs';

/** The real interface in headless Chromium; the application is built before. */
export default {
  ...unit,
  rootDir: '..',
  roots: ['<rootDir>/e2e'],
  setupFiles: [],
  // Two at once take two thirds of the time, but on two cores some tests then miss what they wait for.
  maxWorkers: 1,
  testTimeout: 240_000,
};
