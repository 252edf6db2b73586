/** Unit tests of the core, the formats, the command line, the server and the store. */
export default {
  roots: ['core', 'formats', 'server', 'cli', 'demo', 'web', 'docs', 'bench'].map((p) => `<rootDir>/${p}`),
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
  testEnvironment: 'node',
  // All cores: nothing else runs beside the tests.
  maxWorkers: '100%',
  // Modules of finished suites stay in a worker's memory; a fresh worker is faster than a full one.
  workerIdleMemoryLimit: '500MB',
  testTimeout: 120_000,
  setupFiles: ['<rootDir>/web/src/data/fakeStorage.ts'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: { '^.+\\.tsx?$': '<rootDir>/scripts/jest-transform.mjs' },
  modulePathIgnorePatterns: ['/dist/'],
  moduleNameMapper: { '^joi$': '<rootDir>/node_modules/joi' },
};
