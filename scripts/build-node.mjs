// Bundles the command line and the server for Node; run after installing, so that both work from a fresh clone.
import { build } from 'esbuild';

const common = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  sourcemap: 'linked',
  logLevel: 'warning',
  // Packages that use require() find it in an ES module bundle.
  banner: {
    js: "import { createRequire as __createRequire } from 'node:module';\nconst require = __createRequire(import.meta.url);",
  },
};
// The pool of threads finds its own files beside it, so it stays a package.
const server = { ...common, external: ['piscina'] };
for (const [entry, outfile] of [
  ['cli/src/index.ts', 'cli/dist/warper.mjs'],
  ['cli/src/bakeWorker.ts', 'cli/dist/bakeWorker.mjs'],
  ['server/src/main.ts', 'server/dist/server.mjs'],
  ['server/src/workerMain.ts', 'server/dist/worker.mjs'],
  ['server/src/library/worker.ts', 'server/dist/libraryWorker.mjs'],
  ['server/src/bakes/bakeThread.ts', 'server/dist/bakeThread.mjs'],
])
  await build({ ...server, entryPoints: [entry], outfile });
