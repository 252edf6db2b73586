import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { defined } from '@warper/core';
import { rootTrack } from '@warper/core/kernels';
import { Application } from './application';
import { bakeClip } from './baked';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
  await app.newKeeperScene();
  await app.dropClip('Idle', 0);
  await defined(await app.page.$('::-p-text(1 segment)')).click();
  await app.press('button', 'Add a layer');
  await app.fill('Name', 'Sway');
  for (const [frame, forward] of [
    [20, '0'],
    [40, '0.2'],
    [60, '0'],
  ] as const) {
    await seek(frame);
    await app.press('button', `Key the root at frame ${frame}`);
    await app.fill('Forward', forward);
  }
  await app.press('button', 'Curves');
});
afterAll(() => app.stop());

const seek = (frame: number): Promise<void> => app.seek(frame);

interface Shown {
  readonly label: string;
  readonly x: number;
  readonly y: number;
  readonly chosen: boolean;
}

/** The keys of the curves in sight. */
const keys = (): Promise<Shown[]> =>
  app.page.$$eval('[data-curve-key]', (all) =>
    all.map((e) => {
      const { x, y, width, height } = e.getBoundingClientRect();
      const chosen = e.getAttribute('aria-pressed') === 'true';
      return { label: e.getAttribute('aria-label') ?? '', x: x + width / 2, y: y + height / 2, chosen };
    }),
  );
const keyOf = async (words: string): Promise<Shown | undefined> =>
  (await keys()).find((k) => k.label.startsWith(`Key of ${words}`));

describe('curves of a layer', () => {
  it('show its keys over the frames of the lanes; a key is dragged in time and value', async () => {
    await app.press('button', 'Show only Root forward');
    expect((await keys()).map((k) => k.label)).toEqual([
      'Key of Root forward at frame 20, 0 cm',
      'Key of Root forward at frame 40, 20 cm',
      'Key of Root forward at frame 60, 0 cm',
    ]);
    const [a, b] = [
      defined(await keyOf('Root forward at frame 20')),
      defined(await keyOf('Root forward at frame 40')),
    ];
    const pixelsPerCentimetre = (a.y - b.y) / 20;
    await app.drag(b, { x: b.x + 10 * 1.25, y: b.y - 5 * pixelsPerCentimetre });
    await app.until(async () => (await keyOf('Root forward at frame 50')) !== undefined, 'it is later');
    const moved = Number(/, (.+) cm/.exec(defined(await keyOf('Root forward at frame 50')).label)?.[1]);
    expect(Math.abs(moved - 25)).toBeLessThan(0.5);
  });

  it('have a key that is moved by arrow keys, set by numbers, and gone through as is chosen', async () => {
    await app.page.$eval('[data-curve-key][aria-label*="frame 50"]', (e) => (e as HTMLElement).focus());
    await app.key('ArrowLeft');
    await app.until(async () => (await keyOf('Root forward at frame 49')) !== undefined, 'it is earlier');
    await app.fill('Frame', '40');
    await app.fill('Value', '30');
    await app.until(
      async () => (await keyOf('Root forward at frame 40, 30 cm')) !== undefined,
      'it is where the numbers say',
    );
    await app.choose('Interpolation', 'Linear');
    await app.page.$eval('[data-curve-key][aria-label*="frame 20"]', (e) => (e as HTMLElement).focus());
    await app.choose('Interpolation', 'Linear');
    expect(await app.barriers()).toEqual([]);
  });

  it('come out of the bake as they are drawn', async () => {
    const clip = await bakeClip(app);
    const root = rootTrack(clip);
    const forward = (f: number): number =>
      Math.hypot(root[f * 3]! - root[20 * 3]!, root[f * 3 + 1]! - root[20 * 3 + 1]!);
    // The Keeper sways by 2 cm while idle.
    for (const [frame, wanted] of [
      [25, 0.075],
      [30, 0.15],
      [40, 0.3],
      [50, 0.15],
    ] as const)
      expect(Math.abs(forward(frame) - wanted)).toBeLessThan(0.025);
  });

  it('take a new key where one is double-clicked, several in a box, and lose them again', async () => {
    await app.press('button', 'Show only Root forward');
    const [a, b] = [
      defined(await keyOf('Root forward at frame 20')),
      defined(await keyOf('Root forward at frame 40')),
    ];
    await app.page.mouse.click((a.x + b.x) / 2, (a.y + b.y) / 2, { count: 2 });
    await app.until(
      async () => (await keyOf('Root forward at frame 30, 15 cm')) !== undefined,
      'there is a key',
    );
    await app.drag({ x: a.x + 6, y: b.y - 15 }, { x: b.x + 8, y: a.y + 12 });
    await app.until(async () => (await keys()).filter((k) => k.chosen).length === 2, 'two are in hand');
    await app.press('button', 'Delete');
    await app.until(async () => (await keys()).length === 2, 'they are gone');
    await app.blur();
    await app.key('z', 'Control');
    await app.until(async () => (await keys()).length === 4, 'they are back');
    expect(app.faults).toEqual([]);
  });
});
