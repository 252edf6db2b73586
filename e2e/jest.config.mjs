import unit from '../jest.config.mjs';

/** The real interface in headless Chromium; the application is built before. */
export default {
  ...unit,
  rootDir: '..',
  roots: ['<rootDir>/e2e'],
  setupFiles: [],
  // One test waits for its page while another is at work.
  maxWorkers: 2,
  testTimeout: 240_000,
};
