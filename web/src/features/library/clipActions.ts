import { defined, versionsOf } from '@warper/core';
import { toast } from 'sonner';
import { describeError } from '../../data/importFiles';
import type { StoredClip, StoredCollection } from '../../data/db';
import { db } from '../../data/db';
import { freshId } from '../../data/freshId';
import { listScenes } from '../../data/scenes';

/** A scene that uses a clip, and how often. */
export interface ClipUse {
  readonly scene: string;
  readonly sceneId: string;
  readonly segments: number;
}

/** Where clips are used, by clip id; those that no scene uses are missing. */
export async function usesOf(ids: readonly string[]): Promise<Map<string, ClipUse[]>> {
  const uses = new Map<string, ClipUse[]>();
  for (const { id: sceneId, scene } of await listScenes()) {
    if (!scene) continue;
    const { document } = scene;
    // What only an alternate plays is used too; what several play is counted once.
    const played = versionsOf(document).map((version) => Object.values(version.segments));
    for (const id of ids) {
      const segments = Math.max(...played.map((list) => list.filter((s) => s.clip === id).length));
      if (segments > 0) uses.set(id, [...(uses.get(id) ?? []), { scene: document.name, sceneId, segments }]);
    }
  }
  return uses;
}

/** Changes clips, and offers to take it back. */
async function changeClips(
  clips: readonly StoredClip[],
  what: string,
  change: (clip: StoredClip) => StoredClip,
): Promise<void> {
  await db.clips.bulkPut(clips.map(change));
  toast(what, { action: { label: 'Undo', onClick: () => void db.clips.bulkPut([...clips]) } });
}

/** Gives a clip another name; scenes keep what their segments are called. */
export const renameClip = (clip: StoredClip, name: string): Promise<void> =>
  changeClips([clip], `${clip.name} is called ${name} now`, (c) => ({ ...c, name }));

/** Adds a tag to clips, or takes it from them. */
export const tagClips = (clips: readonly StoredClip[], tag: string, on: boolean): Promise<void> =>
  changeClips(clips, on ? `Tagged “${tag}”` : `No longer tagged “${tag}”`, (c) => ({
    ...c,
    tags: on ? [...new Set([...c.tags, tag])] : c.tags.filter((t) => t !== tag),
  }));

/** Puts clips into a collection, or takes them out of it. */
export const collectClips = (
  clips: readonly StoredClip[],
  { id, name }: StoredCollection,
  on: boolean,
): Promise<void> =>
  changeClips(clips, on ? `Put into ${name}` : `Taken out of ${name}`, (c) => ({
    ...c,
    collections: on ? [...new Set([...c.collections, id])] : c.collections.filter((k) => k !== id),
  }));

/** A new collection with some clips in it. */
export async function makeCollection(name: string, clips: readonly StoredClip[]): Promise<void> {
  const collection = { id: freshId('k'), name };
  await db.collections.put(collection);
  if (clips.length > 0) await collectClips(clips, collection, true);
}

/** Removes a collection; its clips stay. */
export async function removeCollection(collection: StoredCollection): Promise<void> {
  const inside = await db.clips.where('collections').equals(collection.id).toArray();
  await db.collections.delete(collection.id);
  await db.clips.bulkPut(
    inside.map((c) => ({ ...c, collections: c.collections.filter((k) => k !== collection.id) })),
  );
  const restore = async (): Promise<void> => {
    await db.collections.put(collection);
    await db.clips.bulkPut(inside);
  };
  toast(`${collection.name} was removed; its clips stay`, {
    action: { label: 'Undo', onClick: () => void restore() },
  });
}

/**
 * Removes clips that no scene uses; those in use stay, and it is said where they are. A file of which no clip and no skinned
 * body is left goes with them. All of it can be taken back.
 *
 * @returns the ids of the clips that are gone
 */
export async function removeClips(clips: readonly StoredClip[]): Promise<string[]> {
  try {
    const uses = await usesOf(clips.map((c) => c.id));
    const free = clips.filter((c) => !uses.has(c.id));
    if (uses.size > 0) toast(inUse(clips, uses));
    if (free.length === 0) return [];
    const restore = await takeAway(free);
    toast(free.length === 1 ? `${defined(free[0]).name} was removed` : `${free.length} clips were removed`, {
      action: { label: 'Undo', onClick: () => void restore() },
    });
    return free.map((c) => c.id);
  } catch (error) {
    toast.error(`Nothing was removed: ${describeError(error).message}`);
    return [];
  }
}

function inUse(clips: readonly StoredClip[], uses: ReadonlyMap<string, ClipUse[]>): string {
  const [id, where] = defined([...uses][0]);
  const name = defined(clips.find((c) => c.id === id)).name;
  const places = where.map((u) => `${u.scene} (${u.segments} ${u.segments === 1 ? 'segment' : 'segments'})`);
  const more = uses.size > 1 ? `, and ${uses.size - 1} more in use` : '';
  return `${name} stays: it is used in ${places.join(', ')}${more}`;
}

/** Removes clips with what belongs to them alone; gives what puts everything back. */
async function takeAway(clips: readonly StoredClip[]): Promise<() => Promise<void>> {
  const ids = clips.map((c) => c.id);
  const tables = [db.clips, db.previews, db.entries, db.files, db.bodies];
  return db.transaction('rw', tables, async () => {
    const previews = (await db.previews.bulkGet(ids)).filter((p) => p !== undefined);
    await db.clips.bulkDelete(ids);
    await db.previews.bulkDelete(ids);
    // How they begin is found again where they come back.
    await db.entries.bulkDelete(ids);
    const lone: string[] = [];
    for (const source of new Set(clips.map((c) => c.source))) {
      const left = await db.clips.where('source').equals(source).count();
      const skinned = await db.bodies
        .where('source')
        .equals(source)
        .filter((b) => b.skinned)
        .count();
      if (left === 0 && skinned === 0) lone.push(source);
    }
    const files = (await db.files.bulkGet(lone)).filter((f) => f !== undefined);
    const bodies = await db.bodies.where('source').anyOf(lone).toArray();
    await db.files.bulkDelete(lone);
    await db.bodies.bulkDelete(bodies.map((b) => b.id));
    return () =>
      db.transaction('rw', tables, async () => {
        await db.files.bulkPut(files);
        await db.bodies.bulkPut(bodies);
        await db.previews.bulkPut(previews);
        await db.clips.bulkPut([...clips]);
      });
  });
}
