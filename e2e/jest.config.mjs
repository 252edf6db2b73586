import unit from '../jest.config.mjs';

/** The real interface in headless Chromium; the application is built before. */
export default {
  ...unit,
  rootDir: '..',
  roots: ['<rootDir>/e2e'],
  setupFiles: [],
  maxWorkers: 1,
  testTimeout: 240_000,
};
