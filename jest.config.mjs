/** Unit tests of the core, the formats, the command line, the server and the store. */
export default {
  roots: ['core', 'formats', 'server', 'cli', 'demo', 'web', 'docs', 'bench'].map((p) => `<rootDir>/${p}`),
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
  // Without a context of node:vm for each suite, in which every module is loaded again and runs at half its speed.
  runner: 'jest-light-runner',
  // All cores: nothing else runs beside the tests.
  maxWorkers: '100%',
  modulePathIgnorePatterns: ['/dist/'],
};
