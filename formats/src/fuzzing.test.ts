import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { glbJson, jsonMutations, mutate, mutateJson, mutations, readDamaged, withGlbJson } from './fuzzing';

const read = (path: string): Uint8Array => new Uint8Array(readFileSync(new URL(path, import.meta.url)));
const bvh = new TextDecoder().decode(read('../../demo/made/Set%20down.bvh'));
/** Real files, short ones: what is damaged is the structure, not the length. */
const FILES: readonly (readonly [name: string, bytes: Uint8Array, runs: number])[] = [
  [
    'short.bvh',
    new TextEncoder().encode(bvh.replace('Frames: 151', 'Frames: 4').split('\n').slice(0, -147).join('\n')),
    800,
  ],
  ['skin.gltf', read('../fixtures/khronos-simple-skin.gltf'), 400],
  ['walk.glb', read('../../demo/made/visitor-walk.glb'), 60],
  ['lamp.usda', read('../fixtures/lamp.usda'), 150],
  ['bar.dae', read('../fixtures/bar.dae'), 150],
];

describe('documents with odd values', () => {
  const skin = FILES[1]![1];
  const walk = FILES[2]![1];
  it.each([
    [
      'skin.gltf',
      500,
      JSON.parse(new TextDecoder().decode(skin)) as unknown,
      (json: unknown) => new TextEncoder().encode(JSON.stringify(json)),
    ],
    ['walk.glb', 150, glbJson(walk), (json: unknown) => withGlbJson(walk, json)],
  ])('%s is read or refused, whatever stands in it', async (name, numRuns, document, pack) => {
    expect(await readDamaged(pack(document), name)).toBe(true);
    const seen = { read: 0, refused: 0 };
    await fc.assert(
      fc.asyncProperty(jsonMutations(), async (changes) => {
        if (await readDamaged(pack(mutateJson(document, changes)), name)) seen.read++;
        else seen.refused++;
      }),
      { numRuns },
    );
    expect(seen.refused).toBeGreaterThan(numRuns / 10);
    expect(seen.read).toBeGreaterThan(0);
  });
});

describe('damaged files', () => {
  it.each(FILES)('%s is read or refused, whatever happened to it', async (name, bytes, numRuns) => {
    expect(await readDamaged(bytes, name)).toBe(true);
    const seen = { read: 0, refused: 0 };
    await fc.assert(
      fc.asyncProperty(mutations(), async (changes) => {
        if (await readDamaged(mutate(bytes, changes), name)) seen.read++;
        else seen.refused++;
      }),
      { numRuns },
    );
    // Both happen, or nothing was tried.
    expect(seen.refused).toBeGreaterThan(numRuns / 10);
    expect(seen.read).toBeGreaterThan(0);
  });
});
