import type { Scene } from '@warper/core';
import { SCENE_VERSION, edit, emptyScene, parseScene } from '@warper/core';
import type { Source } from '@warper/formats';
import { readSceneFile, sourcesOfScene, writeSceneFile } from '@warper/formats';
import { readInWorker } from '../motion/client';
import { keepRead, library, openSources } from '../motion/pageLibrary';
import type { StoredScene } from './db';
import { db } from './db';
import { freshId } from './freshId';

/** Keeps a scene with its history. */
export async function saveScene(scene: StoredScene): Promise<void> {
  await db.scenes.put(scene);
}

/** Reads a kept scene, checked; undefined where there is none. */
export async function loadScene(id: string): Promise<StoredScene | undefined> {
  const stored = await db.scenes.get(id);
  if (!stored) return undefined;
  const document = parseScene(stored.document);
  // The history of an older version would lead back to documents of that version.
  const current = stored.document.version === SCENE_VERSION;
  return { ...stored, document, past: current ? stored.past : [], future: current ? stored.future : [] };
}

/** A kept scene, checked and brought up to date; or why it cannot be. */
export type ListedScene = StoredScene & { readonly problem: string | null };

const listed = new WeakMap<object, ListedScene>();

/** All kept scenes, the one changed last first. */
export async function listScenes(): Promise<ListedScene[]> {
  const stored = await db.scenes.orderBy('updatedAt').reverse().toArray();
  return stored.map((s) => {
    let entry = listed.get(s);
    if (!entry) {
      try {
        entry = { ...s, document: parseScene(s.document), problem: null };
      } catch (error) {
        entry = { ...s, problem: error instanceof Error ? error.message : 'It cannot be read.' };
      }
      listed.set(s, entry);
    }
    return entry;
  });
}

/** Makes a copy of a scene, with a history of its own, and gives its id. */
export async function duplicateScene(id: string): Promise<string> {
  const stored = await loadScene(id);
  if (!stored) throw new Error('There is no such scene in this browser.');
  return addScene({ ...stored.document, name: `${stored.document.name} copy`.slice(0, 200) });
}

/** Renames a scene, as one step of its history. */
export async function renameScene(id: string, name: string): Promise<void> {
  const stored = await loadScene(id);
  if (!stored) return;
  const { scene, patches, inverse } = edit(stored.document, { type: 'rename scene', name }, library);
  if (patches.length === 0) return;
  const past = [...stored.past, { label: 'renaming the scene', patches, inverse }];
  await saveScene({ ...stored, document: scene, past, future: [], updatedAt: Date.now() });
}

async function addScene(document: Scene): Promise<string> {
  const id = freshId('s');
  await db.scenes.add({ id, document, past: [], future: [], updatedAt: Date.now() });
  return id;
}

/** Makes an empty scene and gives its id. */
export const newScene = (name: string): Promise<string> => addScene(emptyScene(name));

/** Removes a scene; gives it back, so that it can be restored. */
export async function removeScene(id: string): Promise<StoredScene | undefined> {
  const stored = await db.scenes.get(id);
  await db.scenes.delete(id);
  return stored;
}

/** The scene with the steps that its clips have in this library, so that it performs the same elsewhere. */
async function withLibrarySteps(scene: Scene): Promise<Scene> {
  const used = [...new Set(Object.values(scene.segments).map((s) => s.clip))];
  const steps = { ...scene.steps };
  for (const clip of await db.clips.bulkGet(used))
    if (clip?.steps) steps[clip.id] = { ...clip.steps, ...scene.steps[clip.id] };
  return { ...scene, steps };
}

/** Packs a scene with its files. */
export async function exportScene(scene: Scene): Promise<Uint8Array> {
  await openSources(sourcesOfScene(scene));
  return writeSceneFile(await withLibrarySteps(scene), library);
}

/** Keeps a file of a scene file, and what was mapped for its skeletons unless this browser has its own. */
async function takeSource({ bytes, file, scale, roles, imported }: Source): Promise<void> {
  const { mapped } = imported;
  for (const { signature, name, skeleton } of mapped ? imported.bodies : []) {
    const own = Object.entries(mapped!).filter(([joint]) => skeleton.names.includes(joint));
    if (own.length === 0 || (await db.mappings.get(signature))) continue;
    await db.mappings.put({ id: signature, name, roles: Object.fromEntries(own), changedAt: Date.now() });
  }
  await keepRead(await readInWorker(bytes, file, { scale, roles }));
}

/** Takes in a scene file: its motion files and a new scene of its document. */
export async function importScene(bytes: Uint8Array, file: string): Promise<string> {
  const { scene, library: packed } = await readSceneFile(bytes, file);
  for (const source of packed.sources()) await takeSource(source);
  return addScene(scene);
}
