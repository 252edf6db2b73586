import './fakeStorage';
import { readFileSync } from 'node:fs';
import { beforeEach, describe, expect, it } from '@jest/globals';
import { InputError, SCENE_VERSION } from '@warper/core';
import { assembleCues, parseCueSheet, readSceneFile, sourcesOfScene } from '@warper/formats';
import { library } from './pageLibrary';
import { db } from './db';
import {
  duplicateScene,
  exportScene,
  listScenes,
  loadScene,
  newScene,
  removeScene,
  renameScene,
  saveScene,
} from './scenes';

const made = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../../demo/made/${encodeURIComponent(name)}`, import.meta.url)));
const sheet = parseCueSheet(JSON.parse(new TextDecoder().decode(made('lamp-round.cues.json'))));
const { scene } = await assembleCues(sheet, (name) => Promise.resolve(made(name)), library);

beforeEach(async () => {
  await db.scenes.clear();
  await db.changes.clear();
});

describe('kept scenes', () => {
  it('begin empty, are kept and found again, and are gone when removed', async () => {
    const id = await newScene('Evening');
    expect((await loadScene(id))!.document).toMatchObject({ name: 'Evening', characterOrder: [] });
    await saveScene({ id, document: scene, past: [], future: [], updatedAt: 1, changes: 0 });
    expect((await loadScene(id))!.document).toEqual(scene);
    const bringBack = await removeScene(id);
    expect(await loadScene(id)).toBeUndefined();
    await bringBack();
    expect((await loadScene(id))!.document).toEqual(scene);
  });

  it('that are damaged are not opened', async () => {
    await db.scenes.put({
      id: 'x',
      document: { ...scene, rate: -1 },
      past: [],
      future: [],
      updatedAt: 1,
      changes: 0,
    });
    await expect(loadScene('x')).rejects.toThrow(InputError);
  });

  it('of an older version open with the changes that came after them, and are kept in this one', async () => {
    const old = JSON.parse(
      readFileSync(new URL('../../../core/src/testing/fixtures/scene-v4.json', import.meta.url), 'utf8'),
    );
    const named = { label: 'renaming', inverse: [] };
    const seam = ['segments', 'c1s2', 'seam'];
    const changes = [
      [{ op: 'replace' as const, path: ['name'], value: 'After the storm' }],
      [{ op: 'replace' as const, path: [...seam, 'settle'], value: 7 }],
    ];
    await db.scenes.put({ id: 'old', document: old, past: [], future: [], updatedAt: 2, changes: 3 });
    await db.changes.bulkPut(
      changes.map((patches, i) => ({
        kind: 'edit',
        scene: 'old',
        number: 4 + i,
        at: 5,
        entry: { ...named, patches },
      })),
    );
    const opened = (await loadScene('old'))!;
    expect(opened).toMatchObject({ changes: 5, past: [], document: { name: 'After the storm' } });
    expect(opened.document.segments.c1s2!.seam).toMatchObject({ kind: 'settle', frames: 7 });
    // What comes now are changes of the document as it is kept now.
    const patches = [{ op: 'replace' as const, path: [...seam, 'frames'], value: 11 }];
    await db.changes.put({ kind: 'edit', scene: 'old', number: 6, at: 6, entry: { ...named, patches } });
    expect((await loadScene('old'))!.document.segments.c1s2!.seam).toMatchObject({ frames: 11 });
  });

  it('are listed, those of older versions brought up to date, damaged ones with what is wrong', async () => {
    const old = JSON.parse(
      readFileSync(new URL('../../../core/src/testing/fixtures/scene-v2.json', import.meta.url), 'utf8'),
    );
    await db.scenes.put({ id: 'new', document: scene, past: [], future: [], updatedAt: 3, changes: 0 });
    await db.scenes.put({ id: 'old', document: old, past: [], future: [], updatedAt: 2, changes: 0 });
    await db.scenes.put({
      id: 'bad',
      document: { ...scene, rate: -1 },
      past: [],
      future: [],
      updatedAt: 1,
      changes: 0,
    });
    const listed = await listScenes();
    expect(listed.map((s) => [s.id, s.problem === null])).toEqual([
      ['new', true],
      ['old', true],
      ['bad', false],
    ]);
    expect(listed[1]!.scene!.document.version).toBe(SCENE_VERSION);
    expect(listed[2]!.problem).toMatch(/rate/);
  });

  it('are renamed as a step of their history, and duplicated with a history of their own', async () => {
    await saveScene({ id: 'x', document: scene, past: [], future: [], updatedAt: 1, changes: 0 });
    await renameScene('x', 'Night round');
    const renamed = (await loadScene('x'))!;
    expect(renamed.document.name).toBe('Night round');
    expect(renamed.past.map((e) => e.label)).toEqual(['name of the scene']);
    const copy = (await loadScene(await duplicateScene('x')))!;
    expect(copy.document).toEqual({ ...renamed.document, name: 'Night round copy' });
    expect(copy.past).toEqual([]);
    await renameScene('x', 'Night round');
    expect((await loadScene('x'))!.past).toHaveLength(1);
  });

  it('come back from a scene file to the byte', async () => {
    const bytes = await exportScene(scene);
    const { scene: again } = await readSceneFile(bytes, 'x.warper');
    expect(JSON.stringify(again)).toBe(JSON.stringify(scene));
    expect(Buffer.compare(Buffer.from(await exportScene(again)), Buffer.from(bytes))).toBe(0);
  });

  it('are exported with every file that they use', async () => {
    const { scene: again, library: packed } = await readSceneFile(await exportScene(scene), 'x.warper');
    expect(again).toEqual(scene);
    expect(new Set(packed.sources().map((s) => s.imported.source))).toEqual(sourcesOfScene(scene));
  });
});
