import type { RoleMap } from '@warper/core';
import { toast } from 'sonner';
import { keepSteps, readStored, replaceRead } from '../../../data/pageLibrary';
import type { ReadResult } from '../../../workers/protocol';
import type { StoredBody, StoredMapping } from '../../../data/db';
import { db } from '../../../data/db';
import { forgetPreviews } from '../../../data/previews';

/** Bodies of a skeleton; those kept before skeletons were told apart may be among them if they have as many joints. */
const bodiesOf = async (signature: string, joints: number): Promise<StoredBody[]> =>
  (await db.bodies.toArray()).filter((b) =>
    b.signature === undefined ? b.joints === joints : b.signature === signature,
  );

/**
 * Keeps what is mapped for a skeleton, or forgets it: every file with that skeleton is read and measured again first, so
 * that all of it changes or nothing. Clips keep their names, tags and collections, and scenes that use them their segments.
 *
 * @param mapping null goes back to what is found by names
 */
async function changeMapping(
  signature: string,
  joints: number,
  mapping: StoredMapping | null,
  progress: (share: number) => void = () => undefined,
): Promise<void> {
  const roles: RoleMap = mapping?.roles ?? {};
  const sources = [...new Set((await bodiesOf(signature, joints)).map((b) => b.source))];
  const results: ReadResult[] = [];
  for (const file of await db.files.bulkGet(sources)) {
    if (file) results.push(await readStored(file, { trial: { signature, roles } }));
    progress(results.length / sources.length);
  }
  await db.transaction('rw', [db.mappings, db.clips, db.previews, db.entries, db.bodies], async () => {
    if (mapping) await db.mappings.put(mapping);
    else await db.mappings.delete(signature);
    for (const { clips, previews, entries, bodies } of results) {
      for (const { id, facts, loops } of clips) await db.clips.update(id, { facts, loops });
      const kept = await db.previews.bulkGet(previews.map((p) => p.id));
      await db.previews.bulkPut(previews.filter((_, i) => kept[i]));
      await db.entries.bulkPut([...entries]);
      for (const body of bodies) await db.bodies.update(body.id, { signature: body.signature });
    }
  });
  await replaceRead(results);
  for (const { clips } of results)
    for (const stored of await db.clips.bulkGet(clips.map((c) => c.id)))
      if (stored?.steps) await keepSteps(stored.id, stored.steps);
  forgetPreviews();
}

/** The same, said to the user with a way back. */
export async function keepMapping(
  signature: string,
  joints: number,
  mapping: StoredMapping | null,
  progress: (share: number) => void,
): Promise<void> {
  const before = (await db.mappings.get(signature)) ?? null;
  await changeMapping(signature, joints, mapping, progress);
  toast(mapping ? `Kept as “${mapping.name}”` : 'Mapped by the names of the bones again', {
    action: { label: 'Undo', onClick: () => void changeMapping(signature, joints, before) },
  });
}
