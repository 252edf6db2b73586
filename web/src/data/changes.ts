import { applyDifferences } from '@warper/core';
import type { HistoryEntry, StoredChange, StoredScene } from './db';

/** Steps of undo that are kept. */
const HISTORY_LENGTH = 500;

/** A document with its history. */
export type WithHistory = Pick<StoredScene, 'document' | 'past' | 'future'>;

/** What puts one document in the place of another: the document, and the step of undo that leads back. */
export const replacement = (
  before: StoredScene['document'],
  document: StoredScene['document'],
  label: string,
): { readonly document: StoredScene['document']; readonly entry: HistoryEntry } => ({
  document,
  entry: {
    label,
    patches: [{ op: 'replace', path: [], value: document }],
    inverse: [{ op: 'replace', path: [], value: before }],
  },
});

/** A scene after an edit that was carried out already. */
export const afterEdit = (
  { past }: WithHistory,
  document: StoredScene['document'],
  entry: HistoryEntry,
): WithHistory => ({ document, past: [...past, entry].slice(-HISTORY_LENGTH), future: [] });

/** A scene after differences that become part of its last edit, so that they are taken back with it. */
export function afterAmend(
  { past, future }: WithHistory,
  document: StoredScene['document'],
  { patches, inverse }: HistoryEntry,
): WithHistory | null {
  const last = past.at(-1);
  if (!last) return null;
  const entry = {
    ...last,
    patches: [...last.patches, ...patches],
    inverse: [...inverse, ...last.inverse],
  };
  return { document, past: [...past.slice(0, -1), entry], future };
}

/** A scene with its last edit taken back; null where there is none. */
export function afterUndo({ document, past, future }: WithHistory): WithHistory | null {
  const entry = past.at(-1);
  return (
    (entry && {
      document: applyDifferences(document, entry.inverse),
      past: past.slice(0, -1),
      future: [entry, ...future],
    }) ??
    null
  );
}

/** A scene with the edit done again that was taken back last; null where there is none. */
export function afterRedo({ document, past, future }: WithHistory): WithHistory | null {
  const entry = future[0];
  return (
    (entry && {
      document: applyDifferences(document, entry.patches),
      past: [...past, entry],
      future: future.slice(1),
    }) ??
    null
  );
}

/**
 * A kept scene with the changes that came after it, in order. What follows on a gap, or cannot be done again, is left out: the
 * scene is then as it was before that.
 */
export function replay(stored: StoredScene, changes: readonly StoredChange[]): StoredScene {
  let scene = stored;
  for (const change of changes) {
    if (change.number <= scene.changes) continue;
    if (change.number !== scene.changes + 1) break;
    const next = step(scene, change);
    if (!next) break;
    scene = { ...scene, ...next, changes: change.number, updatedAt: change.at };
  }
  return scene;
}

function step(scene: StoredScene, change: StoredChange): WithHistory | null {
  try {
    switch (change.kind) {
      case 'edit':
        return afterEdit(scene, applyDifferences(scene.document, change.entry.patches), change.entry);
      case 'amend':
        return afterAmend(scene, applyDifferences(scene.document, change.entry.patches), change.entry);
      case 'undo':
        return afterUndo(scene);
      case 'redo':
        return afterRedo(scene);
      default:
        return null;
    }
  } catch {
    // Differences that do not fit the document are damaged.
    return null;
  }
}
