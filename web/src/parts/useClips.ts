import { defined } from '@warper/core';
import type { ClipFilter } from '@warper/formats';
import { ClipIndex } from '@warper/formats';
import { useLiveQuery } from 'dexie-react-hooks';
import { useDeferredValue, useMemo } from 'react';
import type { StoredClip } from '../data/db';
import type { KeptClips } from '../data/keptClips';
import { readClips } from '../data/keptClips';

/** What is looked for. */
export interface Wanted {
  readonly words: string;
  readonly filters: readonly ClipFilter[];
  readonly tags: readonly string[];
  /** Id of a collection; null for all clips. */
  readonly collection: string | null;
}

/** The clips of this browser in their order, and those that are wanted; null until they are read. */
export function useClips({ words, filters, tags, collection }: Wanted): {
  readonly all: readonly StoredClip[];
  readonly found: readonly StoredClip[];
  readonly damaged: KeptClips['damaged'];
} | null {
  const kept = useLiveQuery(readClips, []);
  const all = kept?.clips;
  const asked = useDeferredValue(words);
  const cached = useMemo(() => {
    if (!all) return null;
    const index = new ClipIndex();
    index.add(all);
    return { all, index, byId: new Map(all.map((c) => [c.id, c])) };
  }, [all]);
  return useMemo(() => {
    if (!cached) return null;
    const matches = cached.index
      .search(asked, filters)
      .map((id) => defined(cached.byId.get(id)))
      .filter((c) => tags.every((t) => c.tags.includes(t)))
      .filter((c) => collection === null || c.collections.includes(collection));
    return { all: cached.all, found: matches, damaged: kept?.damaged ?? [] };
  }, [cached, kept, asked, filters, tags, collection]);
}
