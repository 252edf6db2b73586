import type { Page } from 'puppeteer-core';

const EDITS = 30;

/** From a key press to its change on disk, and the peer: the scene's whole document written anew. Milliseconds. */
interface Saved {
  readonly edits: number[];
  readonly whole: number[];
}

/**
 * Presses the key that moves the selected segment, and waits until the transaction that holds the change is complete: the
 * page's own calls of IndexedDB are watched, none is added.
 */
export async function benchSaving(page: Page): Promise<void> {
  await watchWriting(page);
  await page.evaluate(() => document.querySelector<HTMLElement>('[data-segment]')!.focus());
  for (let i = 0; i < EDITS; i++) {
    await page.keyboard.press(i % 2 === 0 ? 'ArrowRight' : 'ArrowLeft');
    await page.waitForFunction((n) => (window as unknown as { saved: number[] }).saved.length > n, {}, i);
  }
  const saved: Saved = {
    edits: await page.evaluate(() => (window as unknown as { saved: number[] }).saved),
    whole: await wholeWrites(page),
  };
  const [edits, whole] = [median(saved.edits), median(saved.whole)];
  console.log(
    `  an edit from the key to the disk, its picture between: ${edits.toFixed(1)} ms median (asked 50); ${(whole / edits).toFixed(2)} times as fast as writing the whole document (${whole.toFixed(1)} ms)`,
  );
}

/** Has the page note how long after each key press the transaction of the next change was complete. */
async function watchWriting(page: Page): Promise<void> {
  await page.evaluate(() => {
    const saved: number[] = [];
    Object.assign(window, { saved });
    let pressed = 0;
    addEventListener('keydown', () => (pressed = performance.now()), { capture: true });
    const stores = IDBObjectStore.prototype as unknown as Record<string, (...args: unknown[]) => unknown>;
    for (const name of ['add', 'put']) {
      const write = stores[name]!;
      stores[name] = function (this: IDBObjectStore, ...args) {
        if (this.name === 'changes')
          this.transaction.addEventListener('complete', () => saved.push(performance.now() - pressed));
        return write.apply(this, args);
      };
    }
  });
}

/** Writes the scene that was changed last as a whole, into the same store, as often. */
const wholeWrites = (page: Page): Promise<number[]> =>
  page.evaluate(async (times) => {
    const done = <T>(request: IDBRequest<T>): Promise<T> =>
      new Promise((resolve, reject) => {
        request.onsuccess = () => resolve(request.result);
        request.onerror = () => reject(request.error ?? new Error('Not read.'));
      });
    const db = await done(indexedDB.open('warper'));
    const all = (await done(db.transaction('scenes').objectStore('scenes').getAll())) as {
      updatedAt: number;
    }[];
    const scene = all.sort((a, b) => b.updatedAt - a.updatedAt)[0];
    const took: number[] = [];
    for (let i = 0; i < times; i++) {
      const since = performance.now();
      const work = db.transaction('scenes', 'readwrite', { durability: 'relaxed' });
      work.objectStore('scenes').put(scene);
      await new Promise((resolve) => (work.oncomplete = resolve));
      took.push(performance.now() - since);
    }
    db.close();
    return took;
  }, EDITS);

const median = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[list.length >> 1]!;
