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
await build({ ...server, entryPoints: ['cli/src/index.ts'], outfile: 'cli/dist/warper.mjs' });
await build({ ...server, entryPoints: ['cli/src/bakeWorker.ts'], outfile: 'cli/dist/bakeWorker.mjs' });
await build({ ...server, entryPoints: ['server/src/main.ts'], outfile: 'server/dist/server.mjs' });
await build({
  ...server,
  entryPoints: ['server/src/library/worker.ts'],
  outfile: 'server/dist/libraryWorker.mjs',
});
