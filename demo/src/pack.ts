// `pack.ts FOLDER OUT.zip`: the demonstration as one file, in the order in which its scene wants what is in it.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { zipSync } from 'fflate';
import { listFiles } from './listing';

const SHEET = 'lamp-round.cues.json';
const [folder = 'demo/made', out = 'web/dist/demonstration.zip'] = process.argv.slice(2);

interface Sheet {
  readonly characters: readonly {
    readonly body: string;
    readonly cues: readonly { readonly clip: string }[];
  }[];
}

/** Bodies, clips as they are played, and the rest. */
function motionFiles(): string[] {
  const read = (name: string): unknown => JSON.parse(readFileSync(join(folder, name), 'utf8'));
  const { files } = read('index.json') as { files: string[] };
  const { characters } = read(SHEET) as Sheet;
  const longest = Math.max(...characters.map((c) => c.cues.length));
  const cues = Array.from({ length: longest }, (_, i) => characters.flatMap((c) => c.cues[i]?.clip ?? []));
  const motion = files.filter((name) => /\.(glb|bvh)$/.test(name));
  return [...new Set([...characters.map((c) => c.body), ...cues.flat(), ...motion])];
}

const names = motionFiles();
const listings = new TextEncoder().encode(JSON.stringify(await listFiles(folder, names)));
const contents: [string, Uint8Array][] = [
  ...['index.json', SHEET].map((name): [string, Uint8Array] => [name, readFileSync(join(folder, name))]),
  ['listings.json', listings],
  ...names.map((name): [string, Uint8Array] => [name, readFileSync(join(folder, name))]),
];
// Stored as they are: the transfer compresses the whole, and what has come can be taken out before the rest.
const entries = contents.map(([name, bytes]) => [name, [bytes, { level: 0, mtime: '2000-01-01' }]] as const);
writeFileSync(out, zipSync(Object.fromEntries(entries) as Parameters<typeof zipSync>[0]));
