import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Application, made } from './application';

let app: Application;
beforeAll(async () => {
  app = await Application.start({}, true);
  await app.openLibrary();
});
afterAll(() => app.stop());

const clipOf = (name: string): Promise<string> =>
  app.page.$eval(`[data-clip-card="${name}"] a`, (a) => a.getAttribute('href')!);
/** Every page, with what is there once it is ready. */
async function pages(): Promise<(readonly [string, string])[]> {
  await app.open('/library');
  await app.page.waitForSelector('[data-clip-card="Walk"]');
  const walk = await clipOf('Walk');
  return [
    ['/', '::-p-text(The Lamp Round)'],
    ['/library', '[data-clip-card="Walk"]'],
    ['/library/server', 'main'],
    [walk, '::-p-text(Measured)'],
    [`${walk}/bones`, '[data-bone-row]'],
    ['/scene/lamp-round', '[data-segment]'],
    ['/scene/lamp-round/bake', '::-p-text(Keeper)'],
    ['/measures', '::-p-text(How joins are measured)'],
  ];
}

/** Buttons, links and fields that are partly outside the page, or that something else lies over. */
const unreachable = (page: Page): Promise<string[]> =>
  page.$$eval('header button, header a, main button, main a', (all) =>
    all.flatMap((e) => {
      const { left, right, top, bottom, width } = e.getBoundingClientRect();
      const scrolls = e.closest('.overflow-auto, .overflow-y-auto, [data-timeline], aside') !== null;
      if (width === 0 || scrolls || e.closest('.sr-only') || e.classList.contains('sr-only')) return [];
      const name = e.getAttribute('aria-label') ?? e.textContent ?? '';
      if (left < -1 || right > innerWidth + 1 || bottom > innerHeight + 1) return [`${name} is outside`];
      const over = document.elementFromPoint((left + right) / 2, (top + bottom) / 2);
      return over && (e.contains(over) || over.contains(e))
        ? []
        : [`${name} is covered by ${over?.outerHTML.slice(0, 80)}`];
    }),
  );

describe('every page', () => {
  it('has no barrier by day or night', async () => {
    // By night nothing is another than by day but the colours.
    for (const [theme, rules] of [
      ['day', []],
      ['night', ['color-contrast']],
    ] as const)
      for (const [path, ready] of await pages()) {
        await app.page.evaluate(
          (t) => localStorage.setItem('warper-preferences', JSON.stringify({ toured: true, theme: t })),
          theme,
        );
        await app.open(path);
        await app.page.waitForSelector(ready);
        expect([path, theme, await app.barriers(rules)]).toEqual([path, theme, []]);
      }
  }, 240_000);

  it('keeps everything within reach at 1024x700 and at 2560x1440', async () => {
    for (const [width, height] of [
      [1024, 700],
      [2560, 1440],
    ] as const) {
      await app.page.setViewport({ width, height });
      for (const [path, ready] of await pages()) {
        await app.open(path);
        await app.page.waitForSelector(ready);
        const beside = await app.page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
        expect([path, width, Math.max(0, beside)]).toEqual([path, width, 0]);
        expect([path, width, await unreachable(app.page)]).toEqual([path, width, []]);
      }
    }
    await app.page.setViewport({ width: 1280, height: 800 });
  }, 240_000);
});

describe('help', () => {
  const tourCard = (): Promise<string> =>
    app.page.$eval('[role=dialog] h2', (e) => e.textContent ?? '').catch(() => '');

  it('has a tour of seven cards that is shown at a first visit, can be left, and is found again', async () => {
    await app.page.evaluate(() => localStorage.setItem('warper-preferences', '{}'));
    await app.open('/scene/lamp-round');
    await app.until(async () => (await tourCard()) === 'Clips', 'the tour begins');
    expect(await app.barriers()).toEqual([]);
    await app.page.keyboard.press('Escape');
    await app.until(async () => (await tourCard()) === '', 'it is left');
    await app.open('/scene/lamp-round');
    await app.page.waitForSelector('[data-segment]');
    expect(await tourCard()).toBe('');
    await app.press('button', 'Help');
    await app.press('menuitem', 'Take the tour');
    const seen: string[] = [];
    for (let i = 0; i < 7; i++) {
      await app.until(async () => !['', seen.at(-1)].includes(await tourCard()), 'the next card comes');
      seen.push(await tourCard());
      await app.press('button', i === 6 ? 'Done' : 'Next');
    }
    expect(new Set(seen).size).toBe(7);
    await app.until(async () => (await tourCard()) === '', 'it ends');
  });

  it('starts the demonstration over, in one step that can be undone', async () => {
    const before = await app.segments();
    await app.page.focus('[data-segment]');
    await app.page.keyboard.press('Delete');
    await app.until(async () => (await app.segments()).length === before.length - 1, 'a segment is gone');
    await app.press('button', 'Help');
    await app.press('menuitem', 'Start the demonstration over');
    await app.until(async () => (await app.segments()).join() === before.join(), 'it is as it was');
    await app.press('button', 'Undo start over');
    await app.until(async () => (await app.segments()).length === before.length - 1, 'the change is back');
    await app.press('button', 'Redo start over');
    await app.until(async () => (await app.segments()).join() === before.join(), 'it is as it was again');
  });
});

describe('the play range', () => {
  const range = (): Promise<string[]> =>
    app.page.$$eval('[role=slider]', (all) => all.map((e) => e.getAttribute('aria-valuetext') ?? ''));

  it('is dragged at its ends, moved by keys, and is the whole again', async () => {
    await app.open('/scene/lamp-round');
    await app.page.waitForSelector('[role=slider]');
    const [, end] = await range();
    const { x, y } = (await (await app.find('slider', 'Start of the play range')).boundingBox())!;
    await app.drag({ x: x + 3, y: y + 3 }, { x: x + 128, y: y + 3 });
    await app.until(async () => /frame (99|100|101)$/.test((await range())[0]!), 'it begins later');
    await app.page.focus('[aria-label="End of the play range"]');
    await app.page.keyboard.down('Shift');
    await app.page.keyboard.press('ArrowLeft');
    await app.page.keyboard.up('Shift');
    await app.until(
      async () => (await range())[1] === `frame ${Number(end!.split(' ')[1]) - 10}`,
      'it ends ten frames earlier',
    );
    await app.press('button', 'Undo play range');
    await app.press('button', 'Undo play range');
    await app.until(async () => (await range()).join() === `frame 0,${end}`, 'it is the whole scene');
  });
});

describe('a clip that does not suit', () => {
  it('of a dog on a person is refused, used all the same where that is asked for, and taken back', async () => {
    const before = (await app.segments()).length;
    await app.dragClip('Dog trot', 500);
    await app.page.waitForSelector('::-p-text(recorded on four legs, this character walks on two)');
    expect((await app.segments()).length).toBe(before);
    await app.press('button', 'Use it all the same');
    await app.until(async () => (await app.segments()).length === before + 1, 'it is there');
    await app.joinsSettled();
    await app.press('button', 'Undo addition of Dog trot');
    await app.until(async () => (await app.segments()).length === before, 'it is gone');
  });

  it('of bones that nobody knows is refused, and leads to where they are mapped', async () => {
    const path = join(mkdtempSync(join(tmpdir(), 'warper-odd-')), 'Scaffold.bvh');
    let n = 0;
    writeFileSync(
      path,
      readFileSync(made('Set down.bvh'), 'utf8').replace(
        /(ROOT|JOINT) \w+/g,
        (_, kind) => `${kind} Strut${n++}`,
      ),
    );
    await (await app.page.$('input[aria-label="Files to import"]'))!.uploadFile(path);
    await app.press('button', 'Keep 1 clip');
    await app.page.waitForSelector('[role=dialog]', { hidden: true });
    const before = (await app.segments()).length;
    const clip = await app.lookFor('Scaffold');
    await clip.focus();
    await app.page.keyboard.press('Enter');
    await app.press('button', 'Map its bones');
    await app.page.waitForSelector('[data-bone-row]');
    await app.page.goBack();
    await app.page.waitForSelector('[data-segment]');
    expect(await app.segments()).toHaveLength(before);
  });
});

it('opens and works without its server, once it was there', async () => {
  await app.page.waitForFunction(
    async () => (await navigator.serviceWorker.getRegistration())?.active?.state === 'activated',
    { timeout: 60_000 },
  );
  await app.stopServer();
  await app.open('/scene/lamp-round');
  await app.page.waitForSelector('[data-segment]');
  await app.page.focus('[data-segment]');
  const before = (await app.segments()).length;
  await app.page.keyboard.press('Delete');
  await app.until(async () => (await app.segments()).length === before - 1, 'it is still edited');
  await app.open('/library');
  await app.page.waitForSelector('[data-clip-card="Walk"]');
  expect(app.faults).toEqual([]);
});
