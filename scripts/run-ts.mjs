// Bundles a TypeScript file for Node into a temporary folder and runs it with the given arguments.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';

/** Runs a TypeScript entry file; returns its exit code. */
export async function runTs(entry, args = [], flags = []) {
  const folder = mkdtempSync(join('node_modules', '.run-'));
  const outfile = join(folder, 'main.mjs');
  try {
    await build({
      entryPoints: [entry],
      outfile,
      bundle: true,
      platform: 'node',
      format: 'esm',
      target: 'node20',
      // Packages are bundled, so that each workspace gets its own version; the pool of threads and the resampling find their files beside them.
      external: ['piscina', 'keyframe-resample'],
      banner: {
        js: "import { createRequire as __createRequire } from 'node:module';\nconst require = __createRequire(import.meta.url);",
      },
      logLevel: 'warning',
      alias: {
        '@warper/core/kernels': './core/src/kernels.ts',
        '@warper/formats/sound': './formats/src/sound/index.ts',
        ...Object.fromEntries(
          ['core', 'formats', 'demo', 'server'].map((p) => [`@warper/${p}`, `./${p}/src/index.ts`]),
        ),
      },
    });
    return spawnSync(process.execPath, [...flags, outfile, ...args], { stdio: 'inherit' }).status ?? 1;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
