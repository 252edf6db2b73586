import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { defined } from '@warper/core';
import { Application } from './application';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
  await app.open('/');
  await app.find('link', 'The Lamp Round');
  await app.hasAllClips();
});
afterAll(() => app.stop());

const card = (): Promise<string> => app.card();
const key: Application['key'] = (...keys) => app.key(...keys);
const blur = (): Promise<void> => app.blur();

describe('the seam desk', () => {
  const map = (): Promise<string> =>
    app.page.$eval('[data-match-map]', (e) => e.getAttribute('aria-label') ?? '');
  const meets = async (): Promise<string> => /\d+ onto \d+/.exec(await map())?.[0] ?? '';

  it('has a map for every seam of the demonstration', async () => {
    await app.open('/');
    await app.press('link', 'The Lamp Round');
    await app.page.waitForSelector('[data-seam]', { timeout: 60_000 });
    await blur();
    await key('k');
    await app.page.waitForSelector('section[aria-label="Seam desk"] h2');
    const seen = new Set<string>();
    for (let i = 0; i < 8; i++) {
      const title = await app.page.$eval('section[aria-label="Seam desk"] h2', (e) => e.innerText);
      await app.until(
        async () => (await card()).includes(title) && (await app.page.$('[data-match-map]')) !== null,
        `${title} has a map`,
      );
      seen.add(title);
      const next = await app.find('button', 'Next seam');
      if (await next.evaluate((e) => (e as HTMLButtonElement).disabled)) break;
      await next.press('Enter');
    }
    expect(seen.size).toBeGreaterThan(3);
  });

  it('joins at a pair that is pressed on the map, and shows it before', async () => {
    const { x, y, width, height } = defined(
      await defined(await app.page.$('[data-match-map]')).boundingBox(),
    );
    const before = await meets();
    await app.page.mouse.move(x + width * 0.4, y + height * 0.3);
    await app.page.waitForSelector('section[aria-label="Seam desk"] ::-p-text(Compared, not joined)');
    await app.page.mouse.click(x + width * 0.4, y + height * 0.3);
    await app.until(async () => (await meets()) !== before, 'other frames meet');
    await app.page.mouse.move(600, 200);
    await app.page.waitForSelector('section[aria-label="Seam desk"] ::-p-text(As it is joined)');
    await app.page.click('button[aria-label^="Undo join before"]');
    await app.until(async () => (await meets()) === before, 'it is as it was');
  });

  it('is moved about by the arrow keys, seen live, and taken with Enter', async () => {
    const title = (): Promise<string> =>
      app.page.$eval('section[aria-label="Seam desk"]', (e) => e.innerText);
    const before = await meets();
    const undo = (): Promise<string[]> =>
      app.page.$$eval('button[aria-label^="Undo "]', (all) => all.map((e) => e.ariaLabel ?? ''));
    const [was, last] = [await title(), await undo()];
    await app.page.focus('[data-match-map]');
    for (const name of ['ArrowUp', 'ArrowUp', 'ArrowRight']) await key(name);
    expect(await map()).toMatch(/Enter takes it/);
    await app.until(async () => (await title()) !== was, 'the desk follows');
    expect(await undo()).toEqual(last);
    await key('Enter');
    await app.until(async () => /meet now/.test(await map()) && (await meets()) !== before, 'they meet');
    await app.page.click('button[aria-label^="Undo join before"]');
    await app.until(async () => (await meets()) === before, 'it is as it was');
  });

  it('lists the best matches by the joins that they give, and takes one by the keyboard', async () => {
    const rows = await app.page.$$('ul[aria-label="Best matches"] button');
    const row = defined(rows.at(-1));
    const [text, now] = [await row.evaluate((e) => e.innerText), await row.evaluate((e) => e.ariaPressed)];
    expect(text).toMatch(/\d+ → \d+/);
    if (now === 'false') {
      await row.focus();
      await key('Enter');
      await app.page.waitForSelector('button[aria-label^="Undo join before"]');
      const [, measure] = /([\d.]+ (?:cm|°|×))\s*$/.exec(text) ?? [];
      await app.until(
        async () =>
          (await app.page.$eval('section[aria-label="Seam desk"]', (e) => e.innerText)).includes(
            defined(measure),
          ),
        'it is as good as the list said',
      );
      await app.page.click('button[aria-label^="Undo join before"]');
    }
  });

  it('is fitted by the joint that is pressed on the figure', async () => {
    const joint = async (): Promise<string> => /Joint\s+(\S+)/.exec(await card())?.[1] ?? '';
    await app.choose('Fit', 'A joint');
    await app.until(async () => (await joint()) !== '', 'a joint is chosen');
    const first = await joint();
    await blur();
    await key('v');
    await new Promise((resolve) => setTimeout(resolve, 800));
    const view = defined(await defined(await app.page.$('section[aria-label^="View"] canvas')).boundingBox());
    // Somewhere on the body: it stands in the middle of the view.
    search: for (let y = 0.25; y < 0.9; y += 0.03)
      for (let x = 0.35; x < 0.65; x += 0.015) {
        await app.page.mouse.click(view.x + view.width * x, view.y + view.height * y);
        if ((await joint()) !== first) break search;
      }
    await app.until(async () => (await joint()) !== first && (await joint()) !== '', 'another joint is');
    for (let i = 0; i < 2; i++) await app.page.click('button[aria-label^="Undo fit"]');
    await app.until(async () => (await joint()) === '', 'it is fitted as before');
  });

  it('is seen without its fit while a key is held', async () => {
    const all = async (): Promise<string> =>
      await app.page.$eval('section[aria-label="Seam desk"]', (e) => e.innerText);
    const before = await all();
    await blur();
    await app.page.keyboard.down('u');
    await app.until(async () => (await all()) !== before, 'it is without its fit');
    await app.page.keyboard.up('u');
    await app.until(async () => (await all()) === before, 'it is as it was');
  });

  it('plays the seam over and over from two sides, and leaves the view as it was', async () => {
    const range = async (): Promise<number> =>
      Number(/Frame (\d+)/.exec(await app.page.$eval('header', (e) => e.innerText))?.[1]);
    await app.press('button', 'Loop at a quarter');
    await app.page.waitForSelector('button[aria-pressed=true] ::-p-text(Front and side)');
    const frames: number[] = [];
    for (let i = 0; i < 8; i++) {
      frames.push(await range());
      await new Promise((resolve) => setTimeout(resolve, 400));
    }
    expect(Math.max(...frames) - Math.min(...frames)).toBeLessThan(90);
    expect(new Set(frames).size).toBeGreaterThan(2);
    await app.press('button', 'Loop at a quarter');
    await app.page.waitForSelector('button[aria-pressed=true] ::-p-text(Around)');
    await app.find('button', 'Play');
    expect(await app.barriers()).toEqual([]);
  });
});
