// `pack.ts FOLDER OUT`: the demonstration as two files, the scene with what it is made of in the order in which it is played,
// and the rest of the library with the scenes that are made of all of it.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Scene } from '@warper/core';
import { defined } from '@warper/core';
import { assembleCues, parseCueSheet, sourceOfId } from '@warper/formats';
import { zipSync } from 'fflate';
import { listFiles } from './listing';

const SHEET = 'lamp-round.cues.json';
/** The scenes that come with the rest of the library. */
const FURTHER = ['before-dark', 'look-out', 'way-home'];
const [folder = 'demo/made', out = 'web/dist'] = process.argv.slice(2);

const read = (name: string): unknown => JSON.parse(readFileSync(join(folder, name), 'utf8'));

/** The document of the scene, laid out from its sheet as it is in the page of somebody who opens the sheet, and what it uses. */
async function laidOut(sheet: string): Promise<{ scene: Scene; played: string[] }> {
  const { scene, library } = await assembleCues(parseCueSheet(read(sheet)), (path) =>
    Promise.resolve(readFileSync(join(folder, path))),
  );
  const files = new Map(library.sources().map(({ imported, file }) => [imported.source, file]));
  const segments = Object.values(scene.segments).sort((a, b) => a.start - b.start);
  const used = [...Object.values(scene.characters).map((c) => c.body), ...segments.map((s) => s.clip)];
  const played = [...new Set(used.map((id) => defined(files.get(sourceOfId(id)))))];
  return { scene, played };
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
    [
      'listings.json',
      json(
        await listFiles(
          folder,
          names.filter((name) => !name.endsWith('.wav')),
        ),
      ),
    ],
    ...names.map((name): [string, Uint8Array] => [name, readFileSync(join(folder, name))]),
  ];
  // Stored as they are: the transfer compresses the whole, and what has come can be taken out before the rest.
  const entries = contents.map(
    ([name, bytes]) => [name, [bytes, { level: 0, mtime: '2000-01-01' }]] as const,
  );
  writeFileSync(path, zipSync(Object.fromEntries(entries) as Parameters<typeof zipSync>[0]));
}

const { scene, played } = await laidOut(SHEET);
const { files } = read('index.json') as { files: string[] };
const rest = files.filter((name) => /\.(glb|bvh|wav)$/.test(name) && !played.includes(name));
await writePack(join(out, 'demonstration.zip'), played, { 'scene.json': json(scene) });
const further: Record<string, Uint8Array> = {};
for (const name of FURTHER) further[`${name}.json`] = json((await laidOut(`${name}.cues.json`)).scene);
await writePack(join(out, 'demonstration-rest.zip'), rest, further);
