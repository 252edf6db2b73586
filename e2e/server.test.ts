import { copyFileSync, mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Application, made } from './application';

let app: Application;
const team = mkdtempSync(join(tmpdir(), 'warper-team-'));
mkdirSync(join(team, 'gallery'));
for (const name of ['keeper-walk.glb', 'keeper-turn-left-90.glb', 'keeper-turn-right-90.glb'])
  copyFileSync(made(name), join(team, 'gallery', name));
writeFileSync(join(team, 'torn.bvh'), 'HIERARCHY');

beforeAll(async () => {
  app = await Application.start({ WARPER_LIBRARY: team });
  await app.openLibrary();
});
afterAll(() => app.stop());

const cards = (): Promise<string[]> =>
  app.page.$$eval('[data-server-clip]', (all) => all.map((e) => (e as HTMLElement).dataset.serverClip!));
const names = async (): Promise<string> => (await cards()).sort().join();

describe('the library server', () => {
  it('shows what its folder holds, and what could not be read', async () => {
    await app.press('link', 'Library server');
    await app.until(async () => (await names()) === 'Turn left 90,Turn right 90,Walk', 'its clips are there');
    await app.page.waitForSelector('::-p-text(1 file could not be read)');
    expect(await app.barriers()).toEqual([]);
  });

  it('is searched by words and facts', async () => {
    const field = await app.page.waitForSelector('main input[type=search]');
    await field!.type('turn');
    await app.until(async () => (await names()) === 'Turn left 90,Turn right 90', 'turns are found');
    await app.press('button', 'turns left');
    await app.until(async () => (await names()) === 'Turn left 90', 'one is left');
    await app.press('button', 'loopable');
    await app.press('button', 'Show all clips');
    await app.until(async () => (await cards()).length === 3, 'all are shown again');
  });

  it('takes in what comes into the folder', async () => {
    copyFileSync(made('keeper-wave.glb'), join(team, 'wave.glb'));
    await app.until(async () => (await cards()).includes('Wave'), 'the new clip is there');
  });

  it('tries a clip on a character of this browser, by keys alone, and gives it as tried', async () => {
    await (await app.page.waitForSelector('[data-server-clip="Walk"]'))!.focus();
    await app.page.keyboard.press('Enter');
    const on = await app.find('combobox', 'Character');
    await on.focus();
    await app.page.keyboard.type('Visitor');
    await app.fill('Speed', '0.5');
    const travel = await app.find('combobox', 'Travel');
    await travel.focus();
    await app.page.keyboard.type('in place');
    await app.press('button', 'Add this clip');
    await app.page.waitForSelector('::-p-text(Walk, 0.5 times as fast, in place was added)');
    await app.press('button', 'Open clip');
    await app.page.waitForSelector('::-p-text(62 at 30 a second)');
    await app.page.waitForSelector('::-p-text(0.00 m)');
    await app.page.waitForSelector('::-p-text(· gallery)');
  });

  it('can go away: that is said, and everything else goes on', async () => {
    await app.press('link', 'All clips');
    await app.press('link', 'Library server');
    await app.page.waitForSelector('[data-server-clip]');
    // The pages that are loaded apart have come by now.
    await app.until(
      () =>
        app.page.evaluate(() =>
          performance.getEntriesByType('resource').some((r) => /BonesPage/.test(r.name)),
        ),
      'all pages are loaded',
    );
    await app.stopServer();
    await app.press('link', 'This browser');
    await app.press('link', 'Library server');
    await app.page.waitForSelector('[role=alert] ::-p-text(The library server does not answer)', {
      timeout: 60_000,
    });
    await app.press('button', 'Retry');
    await app.press('link', 'This browser');
    await app.press('link', 'Wave');
    await app.page.waitForSelector('::-p-text(97 at 24 a second)');
    await app.press('link', 'Scenes');
    await app.press('link', 'The Lamp Round');
    await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
    expect(app.faults).toEqual([]);
  });
});
