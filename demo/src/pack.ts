// `pack.ts FOLDER OUT`: the demonstration as two files, the scene with what it is made of in the order in which it is played,
// and the rest of the library.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Scene } from '@warper/core';
import { assembleCues, parseCueSheet } from '@warper/formats';
import { zipSync } from 'fflate';
import { listFiles } from './listing';

const SHEET = 'lamp-round.cues.json';
const [folder = 'demo/made', out = 'web/dist'] = process.argv.slice(2);

interface Sheet {
  readonly characters: readonly {
    readonly body: string;
    readonly cues: readonly { readonly clip: string }[];
  }[];
}

/** Bodies and clips as they are played, and the rest. */
function motionFiles(): { played: string[]; rest: string[] } {
  const read = (name: string): unknown => JSON.parse(readFileSync(join(folder, name), 'utf8'));
  const { files } = read('index.json') as { files: string[] };
  const { characters } = read(SHEET) as Sheet;
  const longest = Math.max(...characters.map((c) => c.cues.length));
  const cues = Array.from({ length: longest }, (_, i) => characters.flatMap((c) => c.cues[i]?.clip ?? []));
  const motion = files.filter((name) => /\.(glb|bvh)$/.test(name));
  const played = [...new Set([...characters.map((c) => c.body), ...cues.flat()])];
  return { played, rest: motion.filter((name) => !played.includes(name)) };
}

/** The document of the scene, laid out from its sheet as it is in the page of somebody who opens the sheet. */
async function sceneDocument(): Promise<Scene> {
  const sheet = parseCueSheet(JSON.parse(readFileSync(join(folder, SHEET), 'utf8')));
  const { scene } = await assembleCues(sheet, (path) => Promise.resolve(readFileSync(join(folder, path))));
  return scene;
}

const json = (value: unknown): Uint8Array => new TextEncoder().encode(JSON.stringify(value));

/** Writes files as one, with what the library lists of them. */
async function writePack(
  path: string,
  names: readonly string[],
  documents: Record<string, Uint8Array>,
): Promise<void> {
  const contents: [string, Uint8Array][] = [
    ...Object.entries(documents),
    ['index.json', readFileSync(join(folder, 'index.json'))],
    ['listings.json', json(await listFiles(folder, names))],
    ...names.map((name): [string, Uint8Array] => [name, readFileSync(join(folder, name))]),
  ];
  // Stored as they are: the transfer compresses the whole, and what has come can be taken out before the rest.
  const entries = contents.map(
    ([name, bytes]) => [name, [bytes, { level: 0, mtime: '2000-01-01' }]] as const,
  );
  writeFileSync(path, zipSync(Object.fromEntries(entries) as Parameters<typeof zipSync>[0]));
}

const { played, rest } = motionFiles();
await writePack(join(out, 'demonstration.zip'), played, { 'scene.json': json(await sceneDocument()) });
await writePack(join(out, 'demonstration-rest.zip'), rest, {});
