import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Application } from './application';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
});
afterAll(() => app.stop());

/** What has the focus: a clip by its name, else whatever a screen reader calls it. */
const focusedName = (): Promise<string> =>
  app.page.evaluate(() => {
    const focused = document.activeElement as HTMLElement | null;
    if (focused?.dataset.clip) return `clip ${focused.dataset.clip}`;
    return (focused?.getAttribute('aria-label') ?? focused?.textContent ?? '').trim();
  });
/** Presses Tab until the focus is on what is wanted. */
async function tabTo(name: RegExp): Promise<void> {
  for (let i = 0; i < 120; i++) {
    if (name.test(await focusedName())) return;
    await app.page.keyboard.press('Tab');
  }
  throw new Error(`Tab never reaches ${name}.`);
}
const press = async (...keys: Parameters<typeof app.page.keyboard.press>[0][]): Promise<void> => {
  for (const key of keys.slice(0, -1)) await app.page.keyboard.down(key);
  await app.page.keyboard.press(keys.at(-1)!);
  for (const key of keys.slice(0, -1)) await app.page.keyboard.up(key);
};

/** Where Walk start ends, and how long a walk is; labels and first frames of the three segments. */
const WALK_STARTED = 84;
const WALK = 30;
let together: string[] = [];
let starts: number[] = [];
const startOf = (label: string): number => Number(/frames (\d+)/.exec(label)![1]);

describe('the job by keyboard only', () => {
  it('makes a scene, a character and a lane of three clips', async () => {
    await app.open('/');
    await app.find('link', 'The Lamp Round');
    await tabTo(/^New scene$/);
    await press('Enter');
    await app.find('button', 'Character');
    await tabTo(/^Character$/);
    await press('Enter');
    await app.page.waitForSelector('[role=menuitem] ::-p-text(Keeper)');
    await app.until(async () => /^Dog/.test(await focusedName()), 'the menu has the focus');
    await app.page.keyboard.type('kee');
    await app.until(async () => /^Keeper/.test(await focusedName()), 'the Keeper has the focus');
    // On a busy page a menu comes late to giving the focus back: it must not take it from where it went meanwhile.
    await app.page.evaluate((late) => {
      const own = window.setTimeout.bind(window);
      window.setTimeout = ((act: () => void, ms = 0) => own(act, ms || late)) as typeof window.setTimeout;
    }, 1200);
    await press('Enter');
    await app.page.waitForSelector('[data-lane]');
    for (const clip of ['Walk start', 'Walk', 'Walk stop']) {
      const before = (await app.segments()).length;
      await app.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
      await tabTo(/^Search clips$/);
      await press('Control', 'a');
      await app.page.keyboard.type(clip);
      await app.page.waitForSelector(`[data-index="0"] [data-clip="${clip}"]`);
      await press('ArrowDown');
      await app.until(async () => (await focusedName()) === `clip ${clip}`, `${clip} has the focus`);
      await press('Enter');
      await app.until(async () => (await app.segments()).length === before + 1, `${clip} is added`);
    }
    await press('ArrowDown');
    await press('End');
    await app.until(async () => /^clip /.test(await focusedName()), 'the arrows stay within the clips');
    together = await app.segments();
    starts = together.map(startOf);
    // Overlaps of 8 to 24 frames, as unlike as the motions are.
    for (const overlap of [WALK_STARTED - starts[1]!, starts[1]! + WALK - starts[2]!]) {
      expect(overlap).toBeGreaterThanOrEqual(8);
      expect(overlap).toBeLessThanOrEqual(24);
    }
    expect(together).toEqual([
      `Walk start, frames 0 to ${WALK_STARTED}`,
      `Walk, frames ${starts[1]} to ${starts[1]! + WALK}`,
      `Walk stop, frames ${starts[2]} to ${starts[2]! + 87}`,
    ]);
    for (const seam of await app.seams()) expect(seam).toMatch(/: good, /);
  });

  it('moves, duplicates and removes segments, and takes it back', async () => {
    await tabTo(/^Walk stop, frames/);
    await press('ArrowRight');
    await app.until(async () => startOf((await app.segments())[2]!) === starts[2]! + 1, 'it moved a frame');
    await press('Shift', 'ArrowRight');
    await app.until(
      async () => startOf((await app.segments())[2]!) === starts[2]! + 11,
      'it moved ten frames',
    );
    await press('Control', 'Z');
    await press('Control', 'Z');
    await app.until(async () => startOf((await app.segments())[2]!) === starts[2]!, 'both moves are undone');
    await app.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await tabTo(/^Walk, frames/);
    await press('d');
    await app.until(async () => (await app.segments()).length === 4, 'the walk is duplicated');
    expect((await app.segments()).slice(1, 3).map(startOf)).toEqual([starts[1], starts[1]! + WALK]);
    await press('Delete');
    await app.until(async () => (await app.segments()).length === 3, 'one is removed');
    await press('Control', 'Shift', 'Z');
    await press('Control', 'Z');
    await press('Control', 'Z');
    await app.until(async () => (await app.segments()).join() === together.join(), 'all is as before');
  });

  it('reaches the numbers of a seam and sets them', async () => {
    await app.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await tabTo(/^Seam from Walk start to Walk/);
    await press('Enter');
    await app.fill('Overlap', '6+6');
    await app.until(
      async () => startOf((await app.segments())[1]!) === WALK_STARTED - 12,
      'the overlap is twelve',
    );
    await app.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await press('Shift', '?');
    await app.page.waitForSelector('[role=dialog] ::-p-text(Play or pause)');
    await press('Escape');
    expect(app.faults).toEqual([]);
  });
});
