import { readFileSync } from 'node:fs';
import { beforeEach, describe, expect, it } from '@jest/globals';
import { InputError } from '@warper/core';
import { assembleCues, parseCueSheet, readSceneFile, sourcesOfScene } from '@warper/formats';
import { library } from '../motion/pageLibrary';
import { db } from './db';
import { exportScene, loadScene, newScene, removeScene, saveScene } from './scenes';

const made = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../../demo/made/${encodeURIComponent(name)}`, import.meta.url)));
const sheet = parseCueSheet(JSON.parse(new TextDecoder().decode(made('lamp-round.cues.json'))));
const { scene } = await assembleCues(sheet, (name) => Promise.resolve(made(name)), library);

beforeEach(() => db.scenes.clear());

describe('kept scenes', () => {
  it('begin empty, are kept and found again, and are gone when removed', async () => {
    const id = await newScene('Evening');
    expect((await loadScene(id))!.document).toMatchObject({ name: 'Evening', characterOrder: [] });
    await saveScene({ id, document: scene, past: [], future: [], updatedAt: 1 });
    expect((await loadScene(id))!.document).toEqual(scene);
    const removed = await removeScene(id);
    expect(removed!.document).toEqual(scene);
    expect(await loadScene(id)).toBeUndefined();
    await saveScene(removed!);
    expect((await loadScene(id))!.document).toEqual(scene);
  });

  it('that are damaged are not opened', async () => {
    await db.scenes.put({ id: 'x', document: { ...scene, rate: -1 }, past: [], future: [], updatedAt: 1 });
    await expect(loadScene('x')).rejects.toThrow(InputError);
  });

  it('are exported with every file that they use', async () => {
    const { scene: again, library: packed } = await readSceneFile(await exportScene(scene), 'x.warper');
    expect(again).toEqual(scene);
    expect(new Set(packed.sources().map((s) => s.imported.source))).toEqual(sourcesOfScene(scene));
  });
});
