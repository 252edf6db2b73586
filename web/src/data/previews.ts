import { defined } from '@warper/core';
import { useEffect, useState } from 'react';
import type { StoredPreview } from './db';
import { db } from './db';

/** Previews that were shown; a library of thousands does not hold them all. */
const kept = new Map<string, StoredPreview>();
const MOST_KEPT = 600;
let asked = new Map<string, ((preview: StoredPreview | undefined) => void)[]>();

/** Lets go of what was shown: clips were measured anew. */
export const forgetPreviews = (): void => kept.clear();

/** Reads a preview; those asked for together are read together. */
function readPreview(id: string): Promise<StoredPreview | undefined> {
  return new Promise((resolve) => {
    if (asked.size === 0) queueMicrotask(() => void readAsked());
    asked.set(id, [...(asked.get(id) ?? []), resolve]);
  });
}

async function readAsked(): Promise<void> {
  const current = asked;
  asked = new Map();
  const ids = [...current.keys()];
  const matches = await db.previews.bulkGet(ids).catch(() => []);
  ids.forEach((id, i) => {
    const preview = matches[i];
    if (preview) kept.set(id, preview);
    defined(current.get(id)).forEach((done) => done(preview));
  });
  for (const id of kept.keys()) {
    if (kept.size <= MOST_KEPT) break;
    kept.delete(id);
  }
}

/** The small figures of a clip, once they are read. */
export function usePreview(id: string): StoredPreview | null {
  const [preview, setPreview] = useState(() => kept.get(id) ?? null);
  useEffect(() => {
    if (preview?.id === id) return;
    let gone = false;
    void readPreview(id).then((read) => !gone && read && setPreview(read));
    return () => {
      gone = true;
    };
  }, [id, preview]);
  return preview?.id === id ? preview : null;
}
