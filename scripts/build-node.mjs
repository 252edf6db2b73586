// Bundles the command line and the server for Node; run after installing, so that both work from a fresh clone.
import { build } from 'esbuild';
import { existsSync } from 'node:fs';

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
await build({ ...common, entryPoints: ['cli/src/index.ts'], outfile: 'cli/dist/warper.mjs' });
if (existsSync('server/src/index.ts')) {
  await build({ ...common, entryPoints: ['server/src/index.ts'], outfile: 'server/dist/server.mjs' });
}
