import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Application } from './application';
import { shareOfOtherPixels } from './pictures';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
  await app.open('/');
  await app.find('link', 'The Lamp Round');
});
afterAll(() => app.stop());

const card = (): Promise<string> => app.page.$eval('aside[aria-label="Selection"]', (e) => e.innerText);
const frame = async (): Promise<number> =>
  Number(/Frame (\d+)/.exec(await app.page.$eval('[data-testid=frame]', (e) => e.textContent ?? ''))![1]);
const blur = (): Promise<void> =>
  app.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
/** Presses a key as a keyboard of some layout does: what it types, and where it lies. */
const pressOn = (key: string, code: string, shift: boolean): Promise<void> =>
  app.page.evaluate(
    (init) =>
      void document.body.dispatchEvent(
        new KeyboardEvent('keydown', { ...init, bubbles: true, cancelable: true }),
      ),
    { key, code, shiftKey: shift },
  );
const dialog = (name: string): Promise<unknown> => app.find('dialog', name);
const closed = (): Promise<void> =>
  app.until(async () => (await app.page.$('[role=dialog]')) === null, 'the sheet is closed');
const find = async (words: string): Promise<void> => {
  await blur();
  await app.page.keyboard.press('/');
  await app.page.waitForSelector('[cmdk-input]');
  await app.page.keyboard.type(words);
};

describe('a new scene', () => {
  it('offers bodies with their height and file, and a clip brings one along in the same step', async () => {
    await app.press('button', 'New scene');
    await app.page.waitForSelector('::-p-text(it brings a character along)');
    await app.press('button', 'Character');
    const bodies = await app.page.$$eval('[role=menuitem]', (all) =>
      all.map((e) => (e as HTMLElement).innerText),
    );
    expect(bodies.map((b) => b.split('\n')[0])).toEqual(['Dog', 'Keeper', 'Visitor']);
    expect(bodies[1]).toMatch(/1\.73 m, with skin · keeper\.glb/);
    await app.page.keyboard.press('Escape');
    const clip = await app.lookFor('Walk');
    const from = (await clip.boundingBox())!;
    const lanes = (await (await app.page.$('[data-timeline]'))!.boundingBox())!;
    await app.drag({ x: from.x + 40, y: from.y + 12 }, { x: lanes.x + 420, y: lanes.y + 90 });
    await app.until(async () => (await app.segments()).length === 1, 'the clip is on a lane');
    expect(await app.segments()).toEqual(['Walk, frames 0 to 30']);
    await app.press('button', 'Undo addition of Keeper with Walk');
    await app.page.waitForSelector('::-p-text(it brings a character along)');
    await app.press('button', 'Redo addition of Keeper with Walk');
    await app.until(async () => (await app.segments()).length === 1, 'both are back');
  });

  it('the palette adds clips by name, and finds commands by other words, never by scattered letters', async () => {
    await find('wlak');
    await app.page.waitForSelector('[cmdk-item] ::-p-text(Walk stop)');
    await app.page.keyboard.press('Escape');
    await closed();
    await find('turn round');
    await (await app.page.waitForSelector('[cmdk-item] ::-p-text(Turn round)'))!.click();
    await app.until(async () => (await app.segments()).length === 2, 'the clip is added');
    await find('flip');
    await app.page.waitForSelector('[cmdk-item] ::-p-text(Mirror left/right)');
    await app.page.keyboard.press('Escape');
    await closed();
    await find('mrrlft');
    await app.page.waitForSelector('::-p-text(Nothing has all these words)');
    await app.page.keyboard.press('Escape');
    await closed();
    await find('dark');
    await (await app.page.waitForSelector('[cmdk-item] ::-p-text(Day or Night)'))!.click();
    await app.page.waitForFunction(() => document.documentElement.dataset.theme === 'night');
    await find('theme');
    await app.page.keyboard.press('Enter');
    await app.page.waitForFunction(() => document.documentElement.dataset.theme === 'day');
  });

  it('several segments share a card; a difference is told, and set for all in one step', async () => {
    await blur();
    await app.page.keyboard.down('Control');
    await app.page.keyboard.press('a');
    await app.page.keyboard.up('Control');
    await app.page.waitForSelector('[aria-label=Selection] ::-p-text(2 segments)');
    await app.fill('Speed', '0.5');
    await app.until(async () => (await app.segments())[0] === 'Walk, frames 0 to 60', 'both are slower');
    await app.press('button', 'Undo speed of 2 segments');
    await app.until(
      async () => (await app.segments())[0] === 'Walk, frames 0 to 30',
      'both are as they were',
    );
  });

  it('a value that was limited says so', async () => {
    await app.page.click('[data-seam]');
    await app.fill('Overlap', '400');
    await app.page.waitForSelector('[role=status] ::-p-text(Overlap limited to)');
  });
});

describe('keys', () => {
  it('go by what is typed: a German keyboard has / and ? over other keys', async () => {
    await blur();
    await pressOn('/', 'Digit7', true);
    await dialog('Commands');
    await app.page.keyboard.press('Escape');
    await closed();
    await pressOn('?', 'Minus', true);
    await dialog('Keys');
    expect(await app.barriers()).toEqual([]);
  });

  it('can be changed, and come back after a reload', async () => {
    await app.press('button', 'Key of Mirror left/right: M');
    await app.page.keyboard.press('j');
    await app.find('button', 'Key of Mirror left/right: J');
    await app.page.reload();
    await app.page.waitForSelector('[data-segment]');
    await app.page.focus('[data-segment]');
    await app.page.keyboard.press('j');
    await app.find('button', 'Undo mirroring of Walk');
    await app.page.keyboard.press('?');
    await app.press('button', 'Reset keys');
    await app.find('button', 'Key of Mirror left/right: M');
    await app.page.keyboard.press('Escape');
    await closed();
    await app.press('button', 'Undo mirroring of Walk');
  });
});

describe('the demonstration by hand', () => {
  it('a menu has what applies to a segment, with its keys, and opens its clip', async () => {
    await app.open('/scene/lamp-round');
    const turn = await app.page.waitForSelector('[data-segment][aria-label^="Turn round"]');
    const { x, y, width } = (await turn!.boundingBox())!;
    await app.page.mouse.click(x + width / 2, y + 44, { button: 'right' });
    await app.page.waitForSelector('[role=menu]');
    const items = await app.page.$$eval('[role=menuitem]', (all) =>
      all.map((e) => (e as HTMLElement).innerText),
    );
    expect(items).toContain('Duplicate\nD');
    expect(await card()).toMatch(/Turn round/);
    await (await app.page.waitForSelector('[role=menuitem] ::-p-text(Reverse)'))!.click();
    await app.press('button', 'Undo reverse of Turn round');
    await app.page.mouse.click(x + width / 2, y + 44, { count: 2 });
    await app.page.waitForSelector('h1 ::-p-text(Turn round)');
    await app.page.goBack();
    await app.page.waitForSelector('[data-segment]');
  });

  it('a selection takes the playhead along, and an edit that makes a join worse says so and has a mend', async () => {
    const start = await app.page.waitForSelector('[data-segment][aria-label^="Walk start"]');
    await start!.focus();
    await app.until(async () => (await frame()) > 40, 'the playhead is there');
    // Its join is set by hand, so it is told of and left alone; deleted, the one that is made is chosen.
    const mirror = await app.find('checkbox', 'Mirror left/right');
    await mirror.click();
    await app.page.waitForSelector('[data-sonner-toast] ::-p-text(is worse now)');
    const before = (await app.seams()).join();
    await app.press('button', 'Mend');
    await app.until(async () => (await app.seams()).join() !== before, 'the join is another');
    await app.page.waitForSelector('button[aria-label^="Undo join before"]');
    for (let i = 0; i < 2; i++) await app.page.click('button[aria-label^="Undo "]');
    await app.page.waitForSelector('[data-segment][aria-label^="Walk start"]');
  });

  it('playing follows a character who leaves the view, unless that is switched off', async () => {
    const picture = async (): Promise<Uint8Array> => {
      await app.page.focus('[data-segment][aria-label^="Idle"]');
      await app.page.focus('[data-segment][aria-label^="Walk ×3"]');
      const view = (await (await app.page.$('section[aria-label^="View"]'))!.boundingBox())!;
      const clip = { ...view, y: view.y + 60, height: view.height - 60 };
      // Until what is drawn has come to rest: three pictures in a row are the same, half a second apart, in which also the floor path is made.
      await app.find('button', 'Play');
      let last: Uint8Array = new Uint8Array();
      for (let [same, tries] = [0, 0]; ; tries++) {
        await new Promise((resolve) => setTimeout(resolve, 500));
        const shot = await app.page.screenshot({ clip, captureBeyondViewport: false });
        same = Buffer.compare(shot, last) === 0 ? same + 1 : 0;
        if (same === 2 || tries === 60) return shot;
        last = shot;
      }
    };
    const play = async (): Promise<void> => {
      await blur();
      await app.page.keyboard.press('Space');
      await app.until(async () => (await frame()) > 330, 'it has played past the turn');
      await app.page.keyboard.press('Space');
    };
    await app.page.focus('[data-segment][aria-label^="Idle"]');
    await app.page.keyboard.press('v');
    await app.choose('Follow', 'nobody');
    await app.choose('Playback speed', '200');
    const before = await picture();
    await play();
    // The same but for a few pixels along edges, which may be blended anew.
    expect(await shareOfOtherPixels(app.page, await picture(), before)).toBeLessThan(0.005);
    await app.choose('Follow', 'who leaves');
    await play();
    expect(await shareOfOtherPixels(app.page, await picture(), before)).toBeGreaterThan(0.02);
    expect(app.faults).toEqual([]);
  });

  it('measures say what they are', async () => {
    await app.page.click('[data-seam]');
    const pop = await app.find('link', 'Pop');
    await pop.focus();
    await app.page.waitForSelector('[role=tooltip] ::-p-text(needs a look from 1 cm)');
    await pop.press('Enter');
    await app.page.waitForSelector('h1 ::-p-text(How joins are measured)');
    expect(await app.barriers()).toEqual([]);
  });
});

describe('a page at 200 %', () => {
  const overflow = (): Promise<number> =>
    app.page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);

  it('has everything, one thing at a time, and nothing beside its edge', async () => {
    await app.page.setViewport({ width: 640, height: 400, deviceScaleFactor: 2 });
    await app.open('/scene/lamp-round');
    await app.page.waitForSelector('[data-segment]');
    expect(await overflow()).toBe(0);
    for (const name of ['Clips', 'View', 'Selection']) {
      await app.press('button', name);
      const label = {
        Clips: 'Library',
        View: 'View: the characters at the playhead',
        Selection: 'Selection',
      }[name]!;
      const box = (await (await app.page.$(`[aria-label="${label}"]`))!.boundingBox())!;
      expect(box.width).toBeGreaterThan(600);
    }
    const bake = (await (await app.find('button', 'Bake')).boundingBox())!;
    expect(bake.x + bake.width).toBeLessThanOrEqual(640);
    expect(await app.barriers()).toEqual([]);
    for (const path of ['/', '/library', '/scene/lamp-round/bake', '/measures']) {
      await app.open(path);
      await app.page.waitForSelector('header');
      expect([path, await overflow()]).toEqual([path, 0]);
    }
    await app.page.setViewport({ width: 1280, height: 800 });
  });

  it('the first stop of Tab leads over everything to the first segment', async () => {
    await app.open('/scene/lamp-round');
    await app.page.waitForSelector('[data-segment]');
    await app.page.keyboard.press('Tab');
    await app.page.keyboard.press('Enter');
    expect(await app.page.evaluate(() => document.activeElement?.getAttribute('aria-label'))).toMatch(
      /^Idle, frames 0 to/,
    );
  });
});
