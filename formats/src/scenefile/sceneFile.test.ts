import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { InputError } from '@warper/core';
import fc from 'fast-check';
import { assembleCues } from '../cues/assemble';
import { parseCueSheet } from '../cues/sheet';
import { readSceneFile, sourcesOfScene, writeSceneFile } from './sceneFile';

const made = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../../demo/made/${name}`, import.meta.url)));
const assembled = await assembleCues(
  parseCueSheet(JSON.parse(new TextDecoder().decode(made('lamp-round.cues.json')))),
  (name) => Promise.resolve(made(name)),
);
const packed = writeSceneFile(assembled.scene, assembled.library);

describe('the scene file', () => {
  it('gives back the document and the files, to the byte', async () => {
    const { scene, library } = await readSceneFile(packed, 'a.warper');
    expect(scene).toEqual(assembled.scene);
    // Bridges that were not taken are not of the scene.
    const used = assembled.library.sources().filter((s) => sourcesOfScene(scene).has(s.imported.source));
    expect(library.sources()).toHaveLength(used.length);
    for (const source of used) {
      const again = library.sources().find((s) => s.imported.source === source.imported.source);
      expect(again?.file).toBe(source.file);
      expect(Buffer.compare(again!.bytes, source.bytes)).toBe(0);
    }
    expect(Buffer.compare(writeSceneFile(scene, library), packed)).toBe(0);
  });

  it('refuses what is damaged anywhere, or reads it as it was', async () => {
    await fc.assert(
      fc.asyncProperty(fc.nat(packed.length - 1), fc.integer({ min: 1, max: 255 }), async (at, by) => {
        const damaged = packed.slice();
        damaged[at] = (damaged[at]! + by) % 256;
        try {
          expect((await readSceneFile(damaged, 'a.warper')).scene).toEqual(assembled.scene);
        } catch (error) {
          expect(error).toBeInstanceOf(InputError);
        }
      }),
      { numRuns: 10 },
    );
  });

  it('refuses a file cut short, and one that is something else', async () => {
    await expect(readSceneFile(packed.subarray(0, packed.length >> 1), 'a.warper')).rejects.toThrow(
      InputError,
    );
    await expect(readSceneFile(made('keeper.glb'), 'a.warper')).rejects.toThrow(/no scene file/);
  });
});
