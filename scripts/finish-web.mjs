// Run after the application is built: packs the demonstration into two files, writes the page of a workbench, and compresses
// what is served.
import { readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import { runTs } from './run-ts.mjs';

const dist = 'web/dist';
const failed = await runTs('demo/src/pack.ts', ['demo/made', dist]);
if (failed) process.exit(failed);

/** The page of a workbench: as all pages, but the scripts of the workbench come along with the first ones, not after them. */
function writeScenePage() {
  const manifest = JSON.parse(readFileSync(join(dist, '.vite/manifest.json'), 'utf8'));
  const files = new Set();
  const collect = (key) => {
    const { file, imports = [] } = manifest[key];
    if (files.has(file)) return;
    files.add(file);
    imports.forEach(collect);
  };
  collect('src/features/workbench/Workbench.tsx');
  const page = readFileSync(join(dist, 'index.html'), 'utf8');
  const links = [...files]
    .filter((file) => !page.includes(file))
    .map((file) => `<link rel="modulepreload" crossorigin href="/${file}">`);
  writeFileSync(join(dist, 'scene.html'), page.replace('</head>', `${links.join('')}</head>`));
}
writeScenePage();

const COMPRESSED = /\.(js|css|html|svg|json|webmanifest|zip)$/;
/** Bytes from which on compressing is worth a second file. */
const LEAST = 1024;
for (const entry of readdirSync(dist, { recursive: true })) {
  const path = join(dist, entry);
  if (!COMPRESSED.test(path) || statSync(path).size < LEAST) continue;
  const bytes = readFileSync(path);
  const quality = bytes.length > 1e6 ? 9 : constants.BROTLI_MAX_QUALITY;
  writeFileSync(
    `${path}.br`,
    brotliCompressSync(bytes, {
      params: { [constants.BROTLI_PARAM_QUALITY]: quality, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length },
    }),
  );
  writeFileSync(`${path}.gz`, gzipSync(bytes, { level: 9 }));
}
