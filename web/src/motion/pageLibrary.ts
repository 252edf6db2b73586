import { InputError } from '@warper/core';
import { MotionLibrary } from '@warper/formats';
import { bytesOf, db, storedBytes } from '../storage/db';
import { readInWorker } from './client';
import type { ReadResult } from './protocol';

/** The clips and bodies that are open in this page; sample buffers live here and never in the store. */
export const library = new MotionLibrary();

const loading = new Map<string, Promise<void>>();

/** Loads sources that are not open yet from this browser's files. */
export async function openSources(ids: Iterable<string>): Promise<void> {
  await Promise.all([...ids].map(openSource));
}

function openSource(id: string): Promise<void> {
  if (library.sources().some((s) => s.imported.source === id)) return Promise.resolve();
  let pending = loading.get(id);
  if (!pending) {
    pending = load(id).finally(() => loading.delete(id));
    loading.set(id, pending);
  }
  return pending;
}

async function load(id: string): Promise<void> {
  const stored = await db.files.get(id);
  if (!stored) {
    throw new InputError('missing-file', 'A file that the scene uses is not kept in this browser.', {
      hint: 'Import the file again, or open the scene file that holds it.',
    });
  }
  const { imported, file } = await readInWorker(await bytesOf(stored), stored.file, stored.scale);
  library.keep({ file: file.file, bytes: file.bytes, scale: file.scale, imported });
}

/** Keeps files that were read: their bytes, facts and figures, and the motion in this page. All of it or nothing is stored. */
export async function keepRead(...results: readonly ReadResult[]): Promise<void> {
  const tables = [db.files, db.clips, db.bodies, db.previews];
  await db.transaction('rw', tables, async () => {
    for (const { file, clips, bodies, previews } of results) {
      await db.files.put({ ...file, bytes: storedBytes(file.bytes) });
      await db.clips.bulkPut([...clips]);
      await db.bodies.bulkPut([...bodies]);
      await db.previews.bulkPut(previews.filter((p) => clips.some((c) => c.id === p.id)));
    }
  });
  for (const { file, imported } of results)
    library.keep({ file: file.file, bytes: file.bytes, scale: file.scale, imported });
}
