import type { Page } from 'puppeteer-core';

const EDITS = 30;

/** From a key press to its change on disk, to the page's hearing of it, and the peer: the scene's whole document written anew. Milliseconds. */
interface Saved {
  readonly onDisk: number[];
  readonly heard: number[];
  readonly whole: number[];
}

/**
 * Presses the key that moves the selected segment. Another tab, of a process of its own, looks into the database over and over: a
 * change that it reads is on disk. The page itself hears of that when its picture is made.
 */
export async function benchSaving(page: Page): Promise<void> {
  const witness = await openWitness(page);
  await watchWriting(page);
  await page.evaluate(() => document.querySelector<HTMLElement>('[data-segment]')!.focus());
  for (let i = 0; i < EDITS; i++) {
    await page.keyboard.press(i % 2 === 0 ? 'ArrowRight' : 'ArrowLeft');
    await page.waitForFunction((n) => (window as unknown as { heard: number[] }).heard.length > n, {}, i);
    await witness.waitForFunction((n) => (window as unknown as { seen: number[] }).seen.length > n, {}, i);
  }
  const pressed = await page.evaluate(() => (window as unknown as { pressed: number[] }).pressed);
  const seen = await witness.evaluate(() => (window as unknown as { seen: number[] }).seen);
  await witness.close();
  const saved: Saved = {
    onDisk: seen.map((at, i) => at - pressed[i]!),
    heard: await page.evaluate(() => (window as unknown as { heard: number[] }).heard),
    whole: await wholeWrites(page),
  };
  const [onDisk, heard, whole] = [median(saved.onDisk), median(saved.heard), median(saved.whole)];
  console.log(
    `  an edit from the key to the disk: ${onDisk.toFixed(1)} ms median (asked 50); to the page's hearing of it, its picture between: ${heard.toFixed(1)} ms; ${(whole / onDisk).toFixed(2)} times as fast as writing the whole document (${whole.toFixed(1)} ms)`,
  );
}

/** A second tab that notes when the number of kept changes grows. */
async function openWitness(page: Page): Promise<Page> {
  const witness = await page.browser().newPage();
  await witness.goto(`${new URL(page.url()).origin}/icon.svg`);
  await witness.evaluate(async () => {
    const done = <T>(request: IDBRequest<T>): Promise<T> =>
      new Promise((resolve, reject) => {
        request.onsuccess = () => resolve(request.result);
        request.onerror = () => reject(request.error ?? new Error('Not read.'));
      });
    const seen: number[] = [];
    Object.assign(window, { seen });
    const db = await done(indexedDB.open('warper'));
    const count = (): Promise<number> => done(db.transaction('changes').objectStore('changes').count());
    let last = await count();
    const look = async (): Promise<void> => {
      const now = await count();
      const at = performance.timeOrigin + performance.now();
      for (; last < now; last++) seen.push(at);
      setTimeout(() => void look());
    };
    void look();
  });
  await page.bringToFront();
  return witness;
}

/** Has the page note when each key was pressed, and how long after it it heard that the change was kept. */
async function watchWriting(page: Page): Promise<void> {
  await page.evaluate(() => {
    const [heard, pressed]: [number[], number[]] = [[], []];
    Object.assign(window, { heard, pressed });
    const now = (): number => performance.timeOrigin + performance.now();
    addEventListener('keydown', () => pressed.push(now()), { capture: true });
    const stores = IDBObjectStore.prototype as unknown as Record<string, (...args: unknown[]) => unknown>;
    for (const name of ['add', 'put']) {
      const write = stores[name]!;
      stores[name] = function (this: IDBObjectStore, ...args) {
        if (this.name === 'changes')
          this.transaction.addEventListener('complete', () => heard.push(now() - pressed.at(-1)!));
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
