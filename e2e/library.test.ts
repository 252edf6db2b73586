import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { defined } from '@warper/core';
import { readMotionFile } from '@warper/formats';
import { unzipSync } from 'fflate';
import { Application, made } from './application';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
  await app.openLibrary();
});
afterAll(() => app.stop());

const cards = (): Promise<string[]> =>
  app.page.$$eval('[data-clip-card]', (all) => all.map((e) => (e as HTMLElement).dataset.clipCard!));
const text = (): Promise<string> => app.page.$eval('main', (e) => e.textContent ?? '');
/** Waits until no message is left, so that the next Undo is that of the next action. */
const quiet = async (): Promise<void> => {
  // A message stays as long as the pointer is on it.
  await app.page.mouse.move(2, 2);
  await app.until(async () => (await app.page.$('[data-sonner-toast]')) === null, 'no message is left');
};
const choose = async (name: string): Promise<void> => app.press('checkbox', name);
const search = async (words: string): Promise<void> => {
  const field = await app.page.waitForSelector('main input[type=search]');
  await field!.click({ count: 3 });
  await app.page.keyboard.press('Backspace');
  await field!.type(words);
};
const type = async (label: string, words: string): Promise<void> => {
  const field = await app.find('textbox', label);
  await field.type(words);
  await app.page.keyboard.press('Enter');
};

describe('the library', () => {
  it('is searched as one types, and narrowed down by facts', async () => {
    await search('walk sto');
    await app.until(async () => (await cards())[0] === 'Walk stop', 'the clip is found');
    await search('');
    await app.press('button', 'turns left');
    await app.press('button', 'over 2 s');
    await app.until(
      async () => (await cards()).every((n) => /^Turn (left|round)/.test(n)),
      'only turns are left',
    );
    expect((await cards()).length).toBeGreaterThan(3);
    await app.press('button', 'turns right');
    await app.page.waitForSelector('::-p-text(No clip matches)');
    await app.press('button', 'Show all clips');
    await app.until(async () => (await cards()).length > 9, 'all are shown again');
  });

  it('moves the figure that has the focus, and no other', async () => {
    const figure = (name: string): Promise<string> =>
      app.page.$eval(`[data-clip-card="${name}"] path`, (e) => e.getAttribute('d')!);
    const [walk, idle] = [await figure('Walk'), await figure('Walk in place')];
    await app.page.$eval('[data-clip-card="Walk"] [role=checkbox]', (e) => (e as HTMLElement).focus());
    await app.until(async () => (await figure('Walk')) !== walk, 'the walk moves');
    expect(await figure('Walk in place')).toBe(idle);
    await app.page.evaluate(() => (document.activeElement as HTMLElement).blur());
  });

  it('tags and renames, and takes it back', async () => {
    await choose('Wave');
    await type('Tag', 'greeting');
    await app.find('button', 'greeting 1');
    await quiet();
    await type('New name', 'Wave to the ship');
    await app.until(async () => (await text()).includes('Wave to the ship'), 'it is renamed');
    await app.press('button', 'Undo');
    await search('greet');
    await app.until(async () => (await cards()).join() === 'Wave', 'it has its old name, and the tag');
    await search('');
    await app.press('button', 'Remove the tag greeting');
    await app.until(
      async () => (await app.page.$('::-p-aria([name="greeting 1"])')) === null,
      'the tag is gone',
    );
    await app.press('button', 'Deselect all');
  });

  it('groups clips into a collection', async () => {
    await choose('Walk');
    await choose('Walk stop');
    const name = await app.find('textbox', 'Name of a new collection');
    await name.type('Gallery');
    await app.page.keyboard.press('Enter');
    await app.press('button', 'Gallery 2');
    await app.until(async () => (await cards()).join() === 'Walk,Walk stop', 'the collection is shown');
    await app.press('button', 'Remove the collection Gallery');
    await app.until(async () => (await cards()).length > 9, 'its clips stay');
    await app.press('button', 'Deselect all');
  });

  it('removes what no scene uses, says where the rest is used, and gives back what was removed', async () => {
    await quiet();
    await choose('Walk in place');
    await app.press('button', 'Remove');
    await app.until(async () => !(await cards()).includes('Walk in place'), 'it is gone');
    await app.press('button', 'Undo');
    await app.until(async () => (await cards()).includes('Walk in place'), 'it is back');
    await choose('Walk');
    await app.press('button', 'Remove');
    await app.page.waitForSelector('::-p-text(it is used in The Lamp Round)');
    expect(await cards()).toContain('Walk');
    await app.press('button', 'Deselect all');
  });

  it('bakes clips as they are, each into a file', async () => {
    for (const name of ['Walk', 'Turn left 90']) await app.press('checkbox', name);
    await app.press('button', 'Bake');
    await app.press('button', 'Bake 2 files');
    const files = unzipSync(await app.downloaded('.zip'));
    expect(Object.keys(files)).toEqual(['Clips-Keeper-Walk.glb', 'Clips-Keeper-Turn-left-90.glb']);
    for (const [name, own] of [
      ['Clips-Keeper-Walk.glb', 'keeper-walk.glb'],
      ['Clips-Keeper-Turn-left-90.glb', 'keeper-turn-left-90.glb'],
    ] as const) {
      const baked = defined((await readMotionFile(defined(files[name]), name)).clips[0]);
      const clip = defined((await readMotionFile(new Uint8Array(readFileSync(made(own))), own)).clips[0]);
      expect([baked.frames, baked.rate]).toEqual([clip.frames, clip.rate]);
      // The hips are where they were, at the first and the last frame.
      for (const at of [0, (clip.frames - 1) * clip.translated.length * 3])
        for (let k = 0; k < 3; k++)
          expect(baked.translations[at + k]).toBeCloseTo(clip.translations[at + k]!, 4);
    }
    await app.openLibrary();
  });

  it('sorts as a table by every column', async () => {
    await app.press('button', 'table');
    const column = (i: number): Promise<string[]> =>
      app.page.$$eval(
        '[role=row]',
        (rows, k) => rows.slice(1).map((r) => r.querySelectorAll('[role=cell]')[k]!.textContent ?? ''),
        i,
      );
    await app.press('button', 'seconds');
    const up = (await column(4)).map(Number);
    expect(up).toEqual([...up].sort((a, b) => a - b));
    expect(up.length).toBeGreaterThan(10);
    await app.press('button', 'seconds ↑');
    const down = (await column(4)).map(Number);
    // Only the rows in sight are drawn: the longest clips come first now.
    expect(down).toEqual([...down].sort((a, b) => b - a));
    expect(down[0]!).toBeGreaterThan(up.at(-1)! - 0.01);
    expect(await app.barriers()).toEqual([]);
    await app.press('button', 'figures');
    expect(await app.barriers()).toEqual([]);
  });

  it('shows a clip from every side, with its facts, its steps and its loops', async () => {
    await app.press('link', 'Walk start');
    await app.page.waitForSelector('[aria-label=Loops] button');
    const facts = await app.page.$eval('aside[aria-label=Facts]', (e) => e.textContent ?? '');
    expect(facts).toMatch(/84 at 30 a second/);
    expect(facts).toMatch(/stride speed/);
    await app.page.waitForSelector('.recharts-line-curve');
    expect((await app.page.$$('.recharts-line-curve')).length).toBe(4);
    expect(await app.barriers()).toEqual([]);
    for (const side of ['Front', 'Side', 'Above']) await app.press('button', side);
    await app.press('button', 'Play');
    const frame = (): Promise<string> =>
      app.page.$eval('[data-testid=clip-frame]', (e) => e.textContent ?? '');
    await app.until(async () => /^[1-9]\d* of 84/.test(await frame()), 'it plays');
    await app.page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await app.page.keyboard.press('Space');
    await app.find('button', 'Play');
    await (await app.page.waitForSelector('[aria-label=Loops] button'))!.click();
    await app.until(async () => !/of 84/.test(await frame()), 'the loop plays over and over');
  });

  it('makes a clip of its own from a part, mirrored', async () => {
    await app.press('checkbox', 'Mirror left/right');
    const name = await app.find('textbox', 'Name of the new clip');
    await name.click({ count: 3 });
    await name.type('Two steps, mirrored');
    await app.press('button', 'Save clip');
    await app.page.waitForSelector('h1 ::-p-text(Two steps, mirrored)', { timeout: 60_000 });
    const facts = await app.page.$eval('aside[aria-label=Facts]', (e) => e.textContent ?? '');
    expect(facts).not.toMatch(/84 at 30/);
    await app.press('link', 'All clips');
    await search('two steps');
    await app.until(async () => (await cards())[0] === 'Two steps, mirrored', 'it is in the library');
    await search('');
  });

  it('says so where there is no such clip', async () => {
    await app.open('/library/clip/nothing%230');
    await app.page.waitForSelector('[role=alert] ::-p-text(There is no such clip in this browser)');
    await app.press('link', 'All clips');
    await app.page.waitForSelector('[data-clip-card="Walk"]');
  });

  it('shows five thousand clips by drawing those in sight', async () => {
    const before = (await app.clips()).length;
    await app.page.evaluate(
      () =>
        new Promise<void>((resolve) => {
          const open = indexedDB.open('warper');
          open.onsuccess = () => {
            const work = open.result.transaction(['clips', 'previews'], 'readwrite');
            const [clips, previews] = [work.objectStore('clips'), work.objectStore('previews')];
            clips.getAll().onsuccess = (event) => {
              const all = (event.target as IDBRequest<{ id: string; name: string }[]>).result;
              const walk = all.find((c) => c.name === 'Walk')!;
              previews.get(walk.id).onsuccess = (e) => {
                const preview = (e.target as IDBRequest<{ id: string }>).result;
                for (let i = 0; i < 5000; i++) {
                  clips.put({ ...walk, id: `${walk.id}-${i}`, name: `Step ${i}`, order: 1e15 + i });
                  previews.put({ ...preview, id: `${walk.id}-${i}` });
                }
              };
            };
            work.oncomplete = () => {
              open.result.close();
              resolve();
            };
          };
        }),
    );
    await app.page.reload();
    await app.page.waitForSelector(`::-p-text(${before + 5000} clips)`, { timeout: 60_000 });
    expect((await cards()).length).toBeLessThan(80);
    const bottom = (): Promise<void> =>
      app.page.$eval('[data-clip-scroller]', (e) => e.scrollTo(0, e.scrollHeight));
    await bottom();
    await app.until(async () => (await cards()).includes('Step 4999'), 'the last clip is in sight');
    expect((await cards()).length).toBeLessThan(80);
    await search('step 4321');
    await app.until(async () => (await cards())[0] === 'Step 4321', 'one of them is found');
  });

  it('left the page without an error, and the machine without a request', () => {
    expect(app.faults).toEqual([]);
  });

  it('says so where a page cannot be shown, and the others go on', async () => {
    // A record as a damaged disk may leave it.
    const id = await app.page.evaluate(
      () =>
        new Promise<string>((resolve) => {
          const open = indexedDB.open('warper');
          open.onsuccess = () => {
            const work = open.result.transaction('clips', 'readwrite');
            const clips = work.objectStore('clips');
            let damaged = '';
            clips.getAll().onsuccess = (event) => {
              const all = (event.target as IDBRequest<{ id: string; name: string }[]>).result;
              const idle = all.find((c) => c.name === 'Idle')!;
              damaged = idle.id;
              clips.put({ ...idle, facts: undefined });
            };
            work.oncomplete = () => {
              open.result.close();
              resolve(damaged);
            };
          };
        }),
    );
    await app.open(`/library/clip/${encodeURIComponent(id)}`);
    await app.page.waitForSelector('[role=alert] ::-p-text(This page could not be shown)');
    await app.press('link', 'All scenes');
    await app.press('link', 'The Lamp Round');
    await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
  });
});
