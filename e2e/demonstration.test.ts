import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Application } from './application';

let app: Application;
beforeAll(async () => {
  app = await Application.start({}, true);
});
afterAll(() => app.stop());

const frame = async (): Promise<number> =>
  Number(/Frame (\d+)/.exec(await app.page.$eval('[data-testid=frame]', (e) => e.textContent ?? ''))![1]);
const findings = (): Promise<string[]> => app.barriers();

describe('a first visit', () => {
  it('finds the demonstration ready, one click away', async () => {
    await app.open('/');
    await app.press('link', 'The Lamp Round');
    await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
    expect((await app.segments()).length).toBeGreaterThanOrEqual(6);
    for (const seam of await app.seams()) expect(seam).toMatch(/: good, /);
  });

  it('plays at its true speed, pauses and goes to places', async () => {
    await app.page.keyboard.press('Space');
    const [before, since] = [await frame(), Date.now()];
    await app.until(async () => (await frame()) > before + 60, 'it plays');
    const rate = ((await frame()) - before) / ((Date.now() - since) / 1000);
    expect(rate).toBeGreaterThan(20);
    expect(rate).toBeLessThan(40);
    await app.page.keyboard.press('Space');
    await app.page.keyboard.press('End');
    await app.until(async () => (await frame()) === 862, 'the playhead is at the end');
    await app.page.keyboard.down('Shift');
    await app.page.keyboard.press('ArrowLeft');
    await app.page.keyboard.up('Shift');
    await app.until(async () => (await frame()) === 852, 'it went ten frames back');
    const ruler = (await (await app.page.waitForSelector('[data-ruler]'))!.boundingBox())!;
    await app.page.mouse.click(ruler.x + 1.25 * 100, ruler.y + 10);
    await app.until(async () => (await frame()) === 100, 'the ruler was pressed');
  });

  it('shows that without the fits it jumps, and by how much', async () => {
    const all = await app.page.$$eval('[data-seam]', (seams) =>
      seams.map((e) => (e as HTMLElement).dataset.seam!),
    );
    const ids = all.slice(0, 7);
    for (const id of ids) {
      await app.page.click(`[data-seam="${id}"]`);
      await app.choose('Fit', 'Free');
    }
    await app.until(
      async () => (await app.seams()).filter((s) => /: bad, /.test(s)).length >= 4,
      'seams are bad',
    );
    const worst = Math.max(...(await app.seams()).map((s) => Number(/([\d.]+) cm/.exec(s)?.[1] ?? 0)));
    expect(worst).toBeGreaterThan(50);
    await app.page.click('[data-ruler]');
    for (let i = 0; i < ids.length; i++) {
      await app.page.keyboard.down('Control');
      await app.page.keyboard.press('z');
      await app.page.keyboard.up('Control');
    }
    await app.until(
      async () => (await app.seams()).every((s) => /: good, /.test(s)),
      'undo brings the fits back',
    );
  });

  it('mends a bad cut by matching frames, and settles one', async () => {
    const seams = async (): Promise<string> => (await app.seams())[4]!;
    await (await app.page.$$('[data-seam]'))[4]!.click();
    const kind = async (name: string): Promise<void> => app.press('button', name);
    await kind('Cut');
    await app.until(async () => /: bad, /.test(await seams()), 'the cut out of step is bad');
    // Any place of the map can be taken: the two clips then meet there.
    const before = (await app.segments()).join();
    await (await app.page.waitForSelector('[data-match-map]'))!.click();
    await app.until(async () => (await app.segments()).join() !== before, 'both sides are trimmed');
    await app.page.waitForSelector('ul[aria-label="Best matches"] li button');
    await app.page.$$eval('ul[aria-label="Best matches"] li button', (all) =>
      (all.find((b) => / good/.test(b.textContent)) ?? all[0])!.click(),
    );
    await app.until(async () => /: good, /.test(await seams()), 'the matched cut is good');
    await kind('Settle');
    await app.fill('Settle', '6');
    await app.until(async () => /: good, /.test(await seams()), 'it is good when it settles too');
    await app.page.click('[data-ruler]');
    while ((await app.page.$('[aria-label^="Undo "]')) !== null) {
      await app.page.keyboard.down('Control');
      await app.page.keyboard.press('z');
      await app.page.keyboard.up('Control');
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    expect(await app.segments()).toHaveLength(21);
  });

  it('shows the view from every side without an error', async () => {
    for (const angle of ['Front', 'Side', 'Top', 'Around']) await app.press('button', angle);
    await app.choose('Follow', 'Keeper');
    expect(app.faults).toEqual([]);
  });

  it('has nothing serious for axe to find, by day and by night', async () => {
    expect(await findings()).toEqual([]);
    await app.press('button', 'Show in night colours');
    expect(await findings()).toEqual([]);
    await app.page.click('[data-seam]');
    expect(await findings()).toEqual([]);
    await app.open('/scene/lamp-round/bake');
    await app.find('button', 'Bake GLB');
    expect(await findings()).toEqual([]);
    await app.open('/');
    await app.find('link', 'The Lamp Round');
    expect(await findings()).toEqual([]);
    await app.press('button', 'Show in day colours');
    expect(await findings()).toEqual([]);
    await app.open('/scene/lamp-round/bake');
    await app.find('button', 'Bake GLB');
    expect(await findings()).toEqual([]);
  });
});
