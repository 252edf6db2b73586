// Run after the application is built: packs the demonstration into one file, and compresses what is served.
import { readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import { runTs } from './run-ts.mjs';

const dist = 'web/dist';
const failed = await runTs('demo/src/pack.ts', ['demo/made', join(dist, 'demonstration.zip')]);
if (failed) process.exit(failed);

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
