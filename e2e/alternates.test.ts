import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { defined } from '@warper/core';
import { readMotionFile } from '@warper/formats';
import { unzipSync } from 'fflate';
import { Application } from './application';
import { bakeClip, jointPath } from './baked';
import type { Baked } from './baked';
import { killTab } from './killTab';
import { shareOfOtherPixels } from './pictures';

let app: Application;

beforeAll(async () => {
  app = await Application.start();
  await app.open('/scene/look-out');
  await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
}, 180_000);
afterAll(async () => {
  const { faults } = app;
  await app.stop();
  expect(faults).toEqual([]);
});

/** Names of the Keeper's segments, in order. */
const performed = async (): Promise<string[]> =>
  (await app.segments()).map((label) => defined(label.split(',')[0]));

/** Has a segment in hand by its name. */
const take = async (name: string): Promise<void> => {
  await app.page.$eval(`[data-segment][aria-label^="${name},"]`, (e) => (e as HTMLElement).focus());
  await app.until(async () => (await app.card()).includes(name), `${name} is in hand`);
};

/** What the sheets on the lanes say. */
const sheets = (): Promise<string[]> =>
  app.page.$$eval('[data-sheet]', (all) => all.map((e) => e.getAttribute('aria-label') ?? ''));

/** The cells of the table of alternates, row by row: what is written in fields, or in words. */
const table = (): Promise<string[][]> =>
  app.page.$$eval('section[aria-label="Alternates"] tbody tr', (rows) =>
    rows.map((row) =>
      [...row.querySelectorAll('td')].map(
        (cell) => cell.querySelector('input')?.value ?? cell.innerText.replace(/\s+/g, ' ').trim(),
      ),
    ),
  );

const showTable = async (): Promise<void> => {
  // The card of the scene has a group of this name too.
  await (await app.page.waitForSelector('[aria-label="Below the view"] ::-p-text(Alternates)'))!.click();
  await app.page.waitForSelector('section[aria-label="Alternates"]');
};

describe('alternates of the look-out', () => {
  it('begin with one beat: the hand over the eyes is kept, another clip is tried in its place', async () => {
    await showTable();
    expect((await table()).map((row) => row[1])).toEqual(['Hand over the eyes', 'Over the rail']);
    await app.press('button', 'Keep only this: Hand over the eyes');
    await app.until(async () => (await table()).length === 0, 'only one is kept');
    await app.press('button', 'Lanes');
    expect(await sheets()).toEqual([]);
    await take('Look out');
    await app.key('S', 'Shift');
    await app.until(async () => (await sheets()).length === 1, 'its frames are a second sheet');
    expect((await sheets())[0]).toMatch(/^Alternate 2, alternate 2 of 2, Keeper, frames \d+ to \d+: swap/);
    await app.press('button', 'Replace clip');
    await app.page.waitForSelector('[cmdk-input]');
    await app.page.keyboard.type('Lean over');
    await app.page.waitForSelector('[cmdk-item][data-value^="lean over the rail" i]');
    await app.page.keyboard.press('Enter');
    await app.until(async () => (await performed()).includes('Lean over the rail'), 'it is replaced');
    await showTable();
    await app.until(async () => (await table()).length === 2, 'both are listed');
    const [first, second] = await app.page.$$('section[aria-label="Alternates"] tbody tr');
    for (const [row, name] of [
      [first, 'Hand over the eyes'],
      [second, 'Over the rail'],
    ] as const) {
      const field = defined(await row?.$('input'));
      await field.click({ count: 3 });
      await field.type(name);
      await field.press('Enter');
    }
    await app.fill('Comment on Over the rail', 'Quieter.');
    await app.until(async () => (await table())[1]?.[2] === 'Quieter.', 'the comment is there');
    expect((await table()).map((row) => row[1])).toEqual(['Hand over the eyes', 'Over the rail']);
    expect(await app.barriers()).toEqual([]);
  });

  it('are swapped by a key, which can be taken back; an edit elsewhere shows in both', async () => {
    await app.press('button', 'Lanes');
    const over = ['Idle', 'Walk start', 'Walk', 'Walk stop', 'Lean over the rail', 'Wave', 'Idle'];
    const eyes = over.map((name) => (name === 'Lean over the rail' ? 'Look out' : name));
    expect(await performed()).toEqual(over);
    await app.blur();
    await app.key('S');
    await app.until(async () => (await performed()).includes('Look out'), 'the other one is in hand');
    await app.press('button', 'Undo swap to Hand over the eyes');
    await app.until(async () => (await performed()).includes('Lean over the rail'), 'it is back');
    await take('Wave');
    await app.key('D');
    const twice = [...over.slice(0, 6), 'Wave', 'Idle'];
    await app.until(async () => (await performed()).length === 8, 'Wave is there twice');
    expect(await performed()).toEqual(twice);
    await app.blur();
    await app.key('S');
    await app.until(async () => (await performed()).includes('Look out'), 'the other one is in hand again');
    expect(await performed()).toEqual([...eyes.slice(0, 6), 'Wave', 'Idle']);
    // What lies on the sheet is one's own.
    await take('Look out');
    await app.key('R');
    await app.blur();
    await app.key('S');
    await app.until(async () => (await performed()).includes('Lean over the rail'), 'over the rail again');
    await take('Lean over the rail');
    expect(await app.page.$$eval('[data-segment]', (all) => all.length)).toBe(8);
    for (const undo of ['swap to Over the rail', 'reverse']) {
      await app.page.waitForSelector(`button[aria-label*="Undo ${undo}" i]`);
      await app.key('Z', 'Control');
    }
    await app.page.waitForSelector('button[aria-label*="Undo swap to Hand over the eyes" i]');
    await app.key('Z', 'Control');
    await app.until(async () => (await performed()).includes('Lean over the rail'), 'as before the swap');
  });

  it('are compared side by side, in step, from the same camera; and as ghosts', async () => {
    const halves = async (): Promise<[Uint8Array, Uint8Array]> => {
      // The caption of the view is no part of what is compared.
      await app.page.$$eval('[data-panes]', (all) =>
        all.forEach((e) => ((e as HTMLElement).style.display = 'none')),
      );
      await app.viewAtRest();
      await new Promise((resolve) => setTimeout(resolve, 400));
      const box = defined(await (await app.page.$('section[aria-label^="View"] canvas'))!.boundingBox());
      const clip = { x: box.x, y: box.y + 24, width: Math.floor(box.width / 2), height: box.height - 80 };
      const shot = (x: number): Promise<Uint8Array> =>
        app.page.screenshot({ clip: { ...clip, x }, captureBeyondViewport: false });
      const both: [Uint8Array, Uint8Array] = [await shot(box.x), await shot(box.x + box.width / 2)];
      await app.page.$$eval('[data-panes]', (all) =>
        all.forEach((e) => ((e as HTMLElement).style.display = '')),
      );
      return both;
    };
    await app.blur();
    await app.key('I');
    await app.page.waitForSelector('[data-panes="2"]');
    const names = await app.page.$eval('[data-panes]', (e) => (e as HTMLElement).innerText);
    expect(names.replace(/\s+/g, ' ')).toBe('Hand over the eyes Over the rail · in hand');
    await app.seek(270);
    expect(await shareOfOtherPixels(app.page, ...(await halves()))).toBeGreaterThan(0.01);
    await app.seek(60);
    expect(await shareOfOtherPixels(app.page, ...(await halves()))).toBeLessThan(0.004);
    await app.key('I', 'Shift');
    await app.page.waitForSelector('::-p-text(Hand over the eyes, as a ghost)');
    expect(await app.page.$('[data-panes]')).toBeNull();
    await app.key('I', 'Shift');
    await app.page.waitForSelector('::-p-text(as a ghost)', { hidden: true });
    await showTable();
    await app.until(async () => (await table()).every((row) => /\d/.test(row[4] ?? '')), 'both are measured');
    expect((await table()).map((row) => row[7])).toEqual(['', 'in hand']);
  });

  it('are both baked at once, each with a moving preview', async () => {
    await app.press('button', 'Bake');
    await app.find('button', 'Bake GLB');
    await app.press('checkbox', 'Hand over the eyes');
    await app.choose('Moving preview of each', 'GIF');
    for (const prop of ['Rail', 'Left post', 'Right post']) await app.press('checkbox', prop);
    // From before the beat until the middle of it.
    await app.fill('Start frame', '180');
    await app.fill('End frame', '290');
    await app.press('button', 'Bake 2 alternates');
    const files = unzipSync(await app.downloaded('.zip'));
    expect(Object.keys(files).sort()).toEqual([
      'Hand-over-the-eyes/Hand-over-the-eyes.gif',
      'Hand-over-the-eyes/The-Look-out-Hand-over-the-eyes-Keeper.glb',
      'Over-the-rail/Over-the-rail.gif',
      'Over-the-rail/The-Look-out-Over-the-rail-Keeper.glb',
      'alternates.txt',
    ]);
    expect(new TextDecoder().decode(files['alternates.txt'])).toContain('Over the rail: Quieter.');
    const clipOf = async (name: string): Promise<Baked> => {
      const file = defined(files[`${name}/The-Look-out-${name}-Keeper.glb`]);
      return defined((await readMotionFile(file, 'baked.glb')).clips[0]);
    };
    const [eyes, rail] = [await clipOf('Hand-over-the-eyes'), await clipOf('Over-the-rail')];
    const [shading, leaning] = [jointPath(eyes, 'rightHand'), jointPath(rail, 'rightHand')];
    expect([eyes.frames, rail.frames]).toEqual([110, 110]);
    expect(defined(shading[90])[1]).toBeGreaterThan(1.5);
    expect(defined(leaning[90])[1]).toBeLessThan(1.15);
    // All that lies beside the beat is the same in both.
    for (const f of [0, 6, 12])
      defined(shading[f]).forEach((v, k) => expect(v).toBeCloseTo(defined(leaning[f])[k]!, 5));
    for (const name of ['Hand-over-the-eyes', 'Over-the-rail']) {
      const gif = defined(files[`${name}/${name}.gif`]);
      expect(new TextDecoder('latin1').decode(gif.subarray(0, 6))).toBe('GIF89a');
      // A picture begins with a control block and its own descriptor.
      const isPicture = (at: number): boolean =>
        gif[at] === 0x21 &&
        gif[at + 1] === 0xf9 &&
        gif[at + 2] === 4 &&
        gif[at + 7] === 0 &&
        gif[at + 8] === 0x2c;
      expect(gif.filter((_, at) => isPicture(at))).toHaveLength(55);
    }
    expect(await app.page.$$eval('[aria-label="Baked alternates"] img', (all) => all.length)).toBe(2);
    await app.page.goBack();
    await app.page.waitForSelector('[data-timeline], section[aria-label="Alternates"]', { timeout: 60_000 });
  });

  it('are all there after the tab is killed, with their names and comments', async () => {
    const url = app.page.url();
    const page = await app.browser.newPage();
    await page.setViewport({ width: 1280, height: 800 });
    await app.page.goto('about:blank');
    await page.goto(url);
    await page.waitForSelector('[data-segment]', { timeout: 60_000 });
    await page.keyboard.press('S');
    await page.waitForSelector('[data-segment][aria-label^="Look out,"]');
    await page.waitForFunction(() => document.body.innerText.includes('saved'));
    await new Promise((resolve) => setTimeout(resolve, 300));
    await killTab(page);
    await app.page.goto(url);
    await app.page.waitForSelector('[data-segment][aria-label^="Look out,"]', { timeout: 60_000 });
    await showTable();
    await app.until(async () => (await table()).length === 2, 'both are listed');
    expect((await table()).map((row) => [row[1], row[2], row[7]])).toEqual([
      ['Hand over the eyes', '', 'in hand'],
      ['Over the rail', 'Quieter.', ''],
    ]);
  });

  it('are merged back into one, as it is baked then; the other is gone until that is undone', async () => {
    await app.press('button', 'Merge back: Over the rail');
    await app.until(async () => (await table()).length === 0, 'there is one scene again');
    await app.press('button', 'Lanes');
    expect(await performed()).toContain('Lean over the rail');
    const hands = jointPath(await bakeClip(app), 'rightHand');
    expect(defined(hands[270])[1]).toBeLessThan(1.15);
    await app.press('button', 'Undo merge of Over the rail');
    await app.until(async () => (await performed()).includes('Look out'), 'the other one is in hand');
    await app.press('button', 'Redo merge of Over the rail');
    await app.until(async () => (await performed()).includes('Lean over the rail'), 'it is merged again');
    expect(await sheets()).toEqual([]);
  });
});
