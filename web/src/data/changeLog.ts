import { defined } from '@warper/core';
import Dexie from 'dexie';
import type { StoredChange, StoredScene } from './db';
import { db } from './db';
import { keepStorage } from './keepStorage';

/** Changes after which a scene is kept whole again, so that opening it does not do too many of them again. */
const WHOLE_AFTER = 100;

/**
 * Relaxed: a change counts as kept once the operating system has it, so that it outlives the tab and the browser; only a loss of
 * power could take the last ones. `docs/architecture.md` has what strict costs.
 */
const DURABILITY = 'relaxed';

/** Time before a write that failed is tried again, milliseconds. */
const RETRY_AFTER = 3000;

/** What becomes of the changes of an open scene. */
export interface LogEvents {
  /** All changes so far are kept. */
  readonly onSaved: () => void;
  /** A write failed, and will be tried again. */
  readonly onFailed: (error: unknown) => void;
  /** Another tab has written changes of its own in their place: this one no longer may. */
  readonly onOvertaken: () => void;
  /** The scene as it is now, to be kept whole. */
  readonly current: () => StoredScene | null;
}

/**
 * Writes the changes of one open scene as they happen, each in a small transaction of its own that is committed in the same
 * breath: nothing of it waits for the page's next turn, which a tab that is killed never gets. Changes that could not be
 * written are kept in order and tried again.
 */
export class ChangeLog {
  /** Not known to be kept yet, in order. */
  private pending: StoredChange[] = [];
  private retrying = false;
  private sinceWhole = 0;
  private closed = false;

  constructor(private readonly events: LogEvents) {}

  /** Keeps a change. */
  add(change: StoredChange): void {
    this.pending.push(change);
    this.sinceWhole++;
    if (!this.retrying) void this.write([change]);
  }

  /** Writes nothing more. */
  close(): void {
    this.closed = true;
    this.pending = [];
  }

  private async write(changes: readonly StoredChange[]): Promise<void> {
    try {
      await writeChanges(changes);
      this.pending = this.pending.filter((c) => !changes.includes(c));
    } catch (error) {
      if (this.closed) return;
      if (isTaken(error)) {
        this.close();
        this.events.onOvertaken();
      } else this.retry(error);
      return;
    }
    if (this.closed || this.pending.length > 0) return;
    this.retrying = false;
    await this.tell(defined(changes.at(-1)));
    this.events.onSaved();
    void keepStorage();
    if (this.sinceWhole >= WHOLE_AFTER) await this.keepWhole();
  }

  private retry(error: unknown): void {
    this.events.onFailed(error);
    this.retrying = true;
    setTimeout(() => {
      if (!this.closed && this.pending.length > 0) void this.write([...this.pending]);
    }, RETRY_AFTER);
  }

  /** Lets lists and other tabs know; what was changed is safe without it. */
  private async tell({ scene, number, at }: StoredChange): Promise<void> {
    await db.touched.put({ id: scene, number, at }).catch(() => undefined);
  }

  /** Keeps the scene whole; the changes that are in it go. A failure loses nothing and is tried again later. */
  private async keepWhole(): Promise<void> {
    const scene = this.events.current();
    if (!scene) return;
    this.sinceWhole = 0;
    await keepWhole(scene).catch(() => (this.sinceWhole = WHOLE_AFTER / 2));
  }
}

/** Writes changes in one transaction, and asks for its commit at once instead of when their success was heard of. */
async function writeChanges(changes: readonly StoredChange[]): Promise<void> {
  if (!db.isOpen()) await db.open();
  const work = db.backendDB().transaction(['changes'], 'readwrite', { durability: DURABILITY });
  const done = new Promise<void>((resolve, reject) => {
    work.oncomplete = () => resolve();
    work.onabort = () => reject(work.error ?? new Error('The browser gave up writing.'));
  });
  const store = work.objectStore('changes');
  for (const change of changes) store.add(change);
  work.commit();
  return done;
}

/** Keeps a scene whole, and lets go of the changes that are in it; both or neither. */
const keepWhole = (scene: StoredScene): Promise<void> =>
  db.transaction('rw', db.scenes, db.changes, async () => {
    await db.scenes.put(scene);
    await db.changes
      .where('[scene+number]')
      .between([scene.id, Dexie.minKey], [scene.id, scene.changes], true, true)
      .delete();
  });

/** Whether a write failed because its number is in use: another tab has changed the scene meanwhile. */
const isTaken = (error: unknown): boolean => (error as { name?: string } | null)?.name === 'ConstraintError';
