import { InputError } from '@warper/core';
import { MotionLibrary } from '@warper/formats';
import { db } from '../storage/db';
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
  const { imported } = await readInWorker(stored.bytes, stored.file, stored.scale);
  library.keep({ file: stored.file, bytes: stored.bytes, scale: stored.scale, imported });
}

/** Keeps a file that was read: its bytes, its facts, and the motion in this page. All of it or nothing is stored. */
export async function keepRead(result: ReadResult): Promise<void> {
  await db.transaction('rw', db.files, db.clips, db.bodies, async () => {
    await db.files.put(result.file);
    await db.clips.bulkPut([...result.clips]);
    await db.bodies.bulkPut([...result.bodies]);
  });
  library.keep({
    file: result.file.file,
    bytes: result.file.bytes,
    scale: result.file.scale,
    imported: result.imported,
  });
}
