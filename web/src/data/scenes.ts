import type { ClipOnBody, Scene } from '@warper/core';
import { SCENE_VERSION, clipsScene, edit, emptyScene, parseScene, versionsOf, defined } from '@warper/core';
import type { Source } from '@warper/formats';
import type { SoundFile } from '@warper/formats/sound';
import { readSceneFile, sourceOfId, soundsOfScene, sourcesOfScene, writeSceneFile } from '@warper/formats';
import { bodyToPerform } from './castBodies';
import { motion } from './motion';
import { keepRead, library, openSources } from './pageLibrary';
import Dexie from 'dexie';
import { afterEdit, replacement, replay } from './changes';
import type { StoredChange, StoredScene } from './db';
import { db } from './db';
import { readHistory } from './history';
import { freshId } from './freshId';

/** Keeps a scene with its history, in place of whatever was kept of it. */
export const saveScene = (scene: StoredScene): Promise<void> =>
  db.transaction('rw', db.scenes, db.changes, async () => {
    await db.changes.where('scene').equals(scene.id).delete();
    await db.scenes.put(scene);
  });

/** A scene as it was last kept whole, and the changes after that. */
async function readStored(id: string): Promise<{ stored: StoredScene; changes: StoredChange[] } | null> {
  return db.transaction('r', db.scenes, db.changes, async () => {
    const stored = await db.scenes.get(id);
    return stored ? { stored, changes: await changesOf(id) } : null;
  });
}

const changesOf = (id: string): Promise<StoredChange[]> =>
  db.changes.where('[scene+number]').between([id, Dexie.minKey], [id, Dexie.maxKey]).toArray();

/**
 * A kept scene, checked and with all its changes. Undo steps that cannot be read are left out.
 *
 * @throws InputError where the document cannot be read
 */
function readScene(stored: StoredScene, changes: readonly StoredChange[]): StoredScene {
  // Checked before its changes, so that what is damaged is told from changes that do not fit.
  const unchanged = parseScene(stored.document);
  const whole: StoredScene = {
    id: stored.id,
    document: stored.document,
    past: readHistory(stored.past),
    future: readHistory(stored.future),
    updatedAt: typeof stored.updatedAt === 'number' ? stored.updatedAt : 0,
    changes: Number.isSafeInteger(stored.changes) ? stored.changes : 0,
  };
  // Changes of an older version are made to the document of that version, which is brought up to date after them.
  const scene = replay(whole, changes);
  const document = scene === whole ? unchanged : parseScene(scene.document);
  // The history of an older version would lead back to documents of that version.
  return isOld(stored) ? { ...scene, document, past: [], future: [] } : { ...scene, document };
}

const isOld = ({ document }: StoredScene): boolean => document.version !== SCENE_VERSION;

/** Reads a kept scene with all its changes, checked; undefined where there is none. */
export async function loadScene(id: string): Promise<StoredScene | undefined> {
  const entry = await readStored(id);
  if (!entry) return undefined;
  const scene = readScene(entry.stored, entry.changes);
  // Changes from here on are changes of a document of this version.
  if (isOld(entry.stored)) await saveScene(scene);
  return scene;
}

/** Number of the last change of a scene; to be watched. */
export const lastChange = async (id: string): Promise<number | undefined> =>
  (await db.touched.get(id))?.number;

/** A kept scene that can be opened, or one that cannot, with what is wrong and what is there of it. */
export type ListedScene =
  | { readonly id: string; readonly updatedAt: number; readonly scene: StoredScene; readonly problem: null }
  | {
      readonly id: string;
      readonly updatedAt: number;
      readonly scene: null;
      readonly problem: string;
      readonly raw: unknown;
    };

/** All kept scenes, the one changed last first. */
export async function listScenes(): Promise<ListedScene[]> {
  // Changes are written without telling those who watch: that is said by what was touched.
  await db.touched.count();
  const [all, changes] = await db.transaction('r', db.scenes, db.changes, () =>
    Promise.all([db.scenes.toArray(), db.changes.orderBy('[scene+number]').toArray()]),
  );
  const byScene = new Map<string, StoredChange[]>();
  for (const change of changes) {
    const list = byScene.get(change.scene);
    if (list) list.push(change);
    else byScene.set(change.scene, [change]);
  }
  return all
    .map((stored): ListedScene => {
      const { id } = stored;
      try {
        const scene = readScene(stored, byScene.get(id) ?? []);
        return { id, updatedAt: scene.updatedAt, scene, problem: null };
      } catch (error) {
        const problem = error instanceof Error ? error.message : 'It cannot be read.';
        return { id, updatedAt: Number(stored.updatedAt) || 0, scene: null, problem, raw: stored };
      }
    })
    .sort((a, b) => b.updatedAt - a.updatedAt);
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
  const past = [...stored.past, { label: 'name of the scene', patches, inverse }];
  await saveScene({ ...stored, document: scene, past, future: [], updatedAt: Date.now() });
}

/** Puts another document in the place of a kept scene's, as one step of its history. */
export async function replaceScene(id: string, document: Scene, label: string): Promise<void> {
  const stored = await loadScene(id);
  if (!stored) return;
  const { entry } = replacement(stored.document, document, label);
  await saveScene({ ...stored, ...afterEdit(stored, document, entry), updatedAt: Date.now() });
}

async function addScene(document: Scene): Promise<string> {
  const id = freshId('s');
  await db.scenes.add({ id, document, past: [], future: [], updatedAt: Date.now(), changes: 0 });
  return id;
}

/** Makes an empty scene and gives its id. */
export const newScene = (name: string): Promise<string> => addScene(emptyScene(name));

/** Makes a scene of clips that are each to be baked as they are, with a region for each, and gives its id. */
export async function newSceneOfClips(
  clips: readonly { readonly id: string; readonly name: string }[],
): Promise<string> {
  await openSources(clips.map((c) => sourceOfId(c.id)));
  const bodies = await db.bodies.toArray();
  const onBodies = clips.flatMap(({ id, name }): ClipOnBody[] => {
    const clip = library.clip(id);
    if (!clip) return [];
    const own = library.bodyOfClip(clip);
    const body = bodyToPerform(bodies, own.id);
    const bodyName = bodies.find((b) => b.id === body)?.name ?? own.name;
    return [{ clip: { ...clip, name }, body, bodyName }];
  });
  const [first] = onBodies;
  const name = onBodies.length === 1 && first ? first.clip.name : 'Clips';
  return addScene(clipsScene(name.slice(0, 200), onBodies));
}

/** Removes a scene; gives what brings it back. */
export async function removeScene(id: string): Promise<() => Promise<void>> {
  return db.transaction('rw', db.scenes, db.changes, db.touched, async () => {
    const [stored, changes] = [await db.scenes.get(id), await changesOf(id)];
    await db.scenes.delete(id);
    await db.changes.where('scene').equals(id).delete();
    await db.touched.delete(id);
    return async () => {
      if (!stored) return;
      await db.scenes.put(stored);
      await db.changes.bulkPut(changes);
    };
  });
}

/** The scene with the steps that its clips have in this library, so that it performs the same elsewhere. */
async function withLibrarySteps(scene: Scene): Promise<Scene> {
  const segments = versionsOf(scene).flatMap((version) => Object.values(version.segments));
  const used = [...new Set(segments.map((s) => s.clip))];
  const steps = { ...scene.steps };
  for (const clip of await db.clips.bulkGet(used))
    if (clip?.steps) steps[clip.id] = { ...clip.steps, ...scene.steps[clip.id] };
  return { ...scene, steps };
}

/** Has the sound files of a scene in the library; those that this browser has no more are left out. */
async function openSounds(scene: Scene): Promise<void> {
  const sounds = versionsOf(scene).flatMap((version) => Object.values(version.sounds));
  for (const asset of await db.assets.bulkGet([...soundsOfScene(scene)])) {
    if (!asset) continue;
    const { id, file, type, bytes } = asset;
    const seconds = Math.max(...sounds.map((s) => (s.source === id ? s.seconds : 0)));
    library.keepSound({ id, file, type, bytes, seconds });
  }
}

/** Packs a scene with its files. */
export async function exportScene(scene: Scene): Promise<Uint8Array> {
  await openSources(sourcesOfScene(scene));
  await openSounds(scene);
  return writeSceneFile(await withLibrarySteps(scene), library);
}

/** Keeps a file of a scene file, and what was mapped for its skeletons unless this browser has its own. */
async function takeSource({ bytes, file, scale, roles, imported }: Source, isMade: boolean): Promise<void> {
  const { mapped } = imported;
  for (const { signature, name, skeleton } of mapped ? imported.bodies : []) {
    const own = Object.entries(defined(mapped)).filter(([joint]) => skeleton.names.includes(joint));
    if (own.length === 0 || (await db.mappings.get(signature))) continue;
    await db.mappings.put({ id: signature, name, roles: Object.fromEntries(own), changedAt: Date.now() });
  }
  const read = await motion.read(bytes, file, { scale, roles });
  // What was made for a prop is no body to choose for somebody else.
  await keepRead(isMade ? { ...read, bodies: [] } : read);
}

/** The files whose bodies were made in code for the props of a scene. */
const madeSources = ({ characters }: Scene): Set<string> =>
  new Set(
    Object.values(characters)
      .filter((c) => c.prop && c.prop.shape !== 'own file')
      .map((c) => sourceOfId(c.body)),
  );

/** Keeps sound files that are not in the library yet. */
async function keepSounds(sounds: readonly SoundFile[]): Promise<void> {
  for (const { id, file, type, bytes } of sounds)
    if (!(await db.assets.get(id))) await db.assets.put({ id, file, type, bytes, addedAt: Date.now() });
}

/** Takes in a scene file: its motion files and a new scene of its document. */
export async function importScene(bytes: Uint8Array, file: string): Promise<string> {
  const { scene, library: packed } = await readSceneFile(bytes, file);
  const made = madeSources(scene);
  for (const source of packed.sources()) await takeSource(source, made.has(source.imported.source));
  await keepSounds(packed.sounds());
  return addScene(scene);
}
