// Run after the application is built: packs the demonstration into one file, and compresses what is served.
import { readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import { zipSync } from 'fflate';

const made = 'demo/made';
const dist = 'web/dist';
const SHEET = 'lamp-round.cues.json';

/** Files in the order in which the scene wants them: the index and the sheet, bodies, clips as they are played, and the rest. */
function inOrder() {
  const { files } = JSON.parse(readFileSync(join(made, 'index.json'), 'utf8'));
  const { characters } = JSON.parse(readFileSync(join(made, SHEET), 'utf8'));
  const bodies = characters.map((c) => c.body);
  const longest = Math.max(...characters.map((c) => c.cues.length));
  const cues = Array.from({ length: longest }, (_, i) => characters.flatMap((c) => c.cues[i]?.clip ?? []));
  const motion = files.filter((name) => /\.(glb|bvh)$/.test(name));
  return [...new Set(['index.json', SHEET, ...bodies, ...cues.flat(), ...motion].filter(Boolean))];
}

// Stored as they are: the transfer compresses the whole, and what has come can be taken out before the rest.
const entries = Object.fromEntries(
  inOrder().map((name) => [name, [readFileSync(join(made, name)), { level: 0, mtime: '2000-01-01' }]]),
);
writeFileSync(join(dist, 'demonstration.zip'), zipSync(entries));

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
