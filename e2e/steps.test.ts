import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Application } from './application';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
  await app.openLibrary();
  await (await app.page.waitForSelector('main input[type=search]'))!.type('climb');
  await app.press('link', 'Climb two steps');
});
afterAll(() => app.stop());

const edges = (): Promise<Record<string, number>> =>
  app.page.$$eval('[role=slider][aria-label]', (all) =>
    Object.fromEntries(
      all.map((e) => [e.getAttribute('aria-label')!, Number(e.getAttribute('aria-valuenow'))]),
    ),
  );
const edit = (): Promise<void> =>
  app.page.waitForSelector('aside[aria-label=Facts] dd button').then((b) => b!.click());
/** What the facts say of the steps; nothing while the clip is being opened. */
const steps = (): Promise<string> =>
  app.page
    .$eval(
      'aside[aria-label=Facts]',
      (e) => /\d+ left, \d+ right(, by hand)?/.exec(e.textContent ?? '')?.[0] ?? '',
    )
    .catch(() => '');

describe('the steps of a clip', () => {
  it('are found on the stair by speed alone', async () => {
    await app.until(
      async () => (await steps()) === '1 left, 1 right',
      'by height only those on the floor are found',
    );
    await edit();
    await app.press('button', 'By speed only');
    await app.until(async () => 'right toes, step 3 ends' in (await edges()), 'those on the stair are there');
    expect(await app.barriers()).toEqual([]);
  });

  it('are moved by pointer and by keys, added and taken away, and taken back', async () => {
    const name = 'left toes, step 2 begins';
    const before = (await edges())[name]!;
    const handle = await app.find('slider', name);
    const box = (await handle.boundingBox())!;
    const track = (await (await app.page.$('[data-step-track="leftToes"]'))!.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await app.page.mouse.move(x, y);
    await app.page.mouse.down();
    await app.page.mouse.move(x + (track.width / 106) * 6, y, { steps: 4 });
    await app.page.mouse.up();
    await app.until(async () => Math.abs((await edges())[name]! - before - 6) <= 1, 'it follows the pointer');
    const dragged = (await edges())[name]!;
    await (await app.find('slider', name)).focus();
    await app.page.keyboard.press('ArrowLeft');
    await app.until(async () => (await edges())[name] === dragged - 1, 'an arrow moves it by a sample');
    await app.page.keyboard.press('Delete');
    await app.until(async () => !(name in (await edges())), 'the step is gone');
    await app.page.$eval('input[aria-label=Frame]', (e) => e.focus());
    await app.page.keyboard.press('End');
    await app.press('button', 'Add a step of the left toes here');
    await app.until(async () => (await edges())[name] === 105, 'there is one at the end');
    await app.press('button', 'Undo');
    await app.press('button', 'Undo');
    await app.until(async () => (await edges())[name] === dragged - 1, 'it is back where it was');
  });

  it('are kept with the clip, and go back to what was found', async () => {
    await app.press('button', 'Save steps');
    await app.until(async () => (await steps()) === '2 left, 3 right, by hand', 'they are kept');
    await app.page.reload();
    await app.page.waitForSelector('aside[aria-label=Facts] dd button');
    await app.until(
      async () => (await steps()) === '2 left, 3 right, by hand',
      'they are there after a reload',
    );
    await edit();
    await app.until(async () => 'right toes, step 3 ends' in (await edges()), 'the clip has them');
    await app.press('button', 'As detected');
    await app.press('button', 'Save steps');
    await app.until(async () => (await steps()) === '1 left, 1 right', 'it is as it was found');
    await app.press('button', 'Undo');
    await app.until(async () => (await steps()) === '2 left, 3 right, by hand', 'and that is taken back');
    expect(app.faults).toEqual([]);
  });
});
