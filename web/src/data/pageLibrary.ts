import type { Compiler, OwnSteps } from '@warper/core';
import { InputError, createCompiler, findSteps, defined } from '@warper/core';
import { MotionLibrary } from '@warper/formats';
import type { StoredFile } from './db';
import { db, storedBytes } from './db';
import { motion } from './motion';
import { applySteps } from './ownSteps';
import type { ReadHow, ReadResult } from '../workers/protocol';

/** The clips and bodies that are open in this page; sample buffers live here and never in the store. */
export const library = new MotionLibrary();

/** What turns the page's scenes into plans. */
export const compiler = createCompiler(library);

/** A compiler of its own for what is seen beside the scene, so that neither takes over from the other. */
export const besideCompiler = (): Compiler => createCompiler(library);

const watchers = new Set<() => void>();

/** Calls the watcher whenever clips or bodies were read anew under the same ids; gives what ends it. */
export function watchLibrary(watcher: () => void): () => void {
  watchers.add(watcher);
  return () => void watchers.delete(watcher);
}

/** Takes files that were read anew in place of what is open of them. */
export async function replaceRead(results: readonly ReadResult[]): Promise<void> {
  for (const { file, imported } of results) {
    library.forget(imported.source);
    library.keep({ ...file, imported });
    await applySteps(library, imported.source);
  }
  changed();
}

function changed(): void {
  watchers.forEach((w) => w());
}

/** Keeps the user's own steps of a clip, or goes back to those that are found with undefined. */
export async function keepSteps(id: string, steps: OwnSteps | undefined): Promise<void> {
  library.setSteps(id, steps);
  const { leftFoot, rightFoot } = findSteps(defined(library.clip(id)));
  const stored = await db.clips.get(id);
  if (stored) await db.clips.put({ ...stored, steps, facts: { ...stored.facts, leftFoot, rightFoot } });
  changed();
}

const loading = new Map<string, Promise<void>>();

/** Loads sources that are not open yet from this browser's files. */
export async function openSources(ids: Iterable<string>): Promise<void> {
  await Promise.all([...ids].map(openSource));
}

function openSource(id: string): Promise<void> {
  let pending = loading.get(id);
  if (!pending && library.sources().some((s) => s.imported.source === id)) return Promise.resolve();
  if (!pending) {
    pending = load(id).finally(() => loading.delete(id));
    loading.set(id, pending);
  }
  return pending;
}

/** Reads a kept file again, as it was read before. */
export const readStored = async (
  { bytes, file, scale, roles }: StoredFile,
  how: Pick<ReadHow, 'trial' | 'known'> = {},
): Promise<ReadResult> => motion.read(bytes, file, { scale, roles, ...how });

async function load(id: string): Promise<void> {
  const stored = await db.files.get(id);
  if (!stored) {
    throw new InputError('missing-file', 'A file that the scene uses is not kept in this browser.', {
      hint: 'Import the file again, or open the scene file that holds it.',
    });
  }
  const { imported, file } = await readStored(stored, { known: true });
  library.keep({ ...file, imported });
  await applySteps(library, id);
}

/** Keeps files that were read: their bytes, facts and figures, and the motion in this page. All of it or nothing is stored. */
export async function keepRead(...results: readonly ReadResult[]): Promise<void> {
  const tables = [db.files, db.clips, db.bodies, db.previews, db.entries];
  await db.transaction('rw', tables, async () => {
    for (const { file: read, clips, bodies, previews, entries } of results) {
      const { blob, ...file } = read;
      await db.files.put({ ...file, bytes: blob ?? storedBytes(file.bytes) });
      await db.clips.bulkPut([...clips]);
      await db.bodies.bulkPut([...bodies]);
      await db.previews.bulkPut(previews.filter((p) => clips.some((c) => c.id === p.id)));
      await db.entries.bulkPut(entries.filter((e) => clips.some((c) => c.id === e.id)));
    }
  });
  for (const { file, imported } of results) library.keep({ ...file, imported });
}
