import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { composeMoves, invertMove, rootTrack } from '@warper/core/kernels';
import { readMotionFile } from '@warper/formats';
import type { Page } from 'puppeteer-core';
import { Application } from './application';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
  await app.open('/');
  await app.find('link', 'The Lamp Round');
});
afterAll(() => app.stop());

type Point = { x: number; y: number };
const box = async (selector: string): Promise<Point & { width: number; height: number }> =>
  (await (await app.page.waitForSelector(selector))!.boundingBox())!;
const middle = async (selector: string): Promise<Point> => {
  const b = await box(selector);
  return { x: b.x + b.width / 2, y: b.y + b.height / 2 };
};
const spanOf = (label: string): [number, number] => {
  const found = /frames (\d+) to (\d+)/.exec(label)!;
  return [Number(found[1]), Number(found[2])];
};
const idOf = (name: string): Promise<string> =>
  app.page.$eval(`[data-segment][aria-label^="${name}"]`, (e) => (e as HTMLElement).dataset.segment!);
const lastId = (): Promise<string> =>
  app.page.$$eval('[data-segment]', (all) => (all.at(-1) as HTMLElement).dataset.segment!);
const press = async (...keys: Parameters<typeof app.page.keyboard.press>[0][]): Promise<void> => {
  for (const key of keys.slice(0, -1)) await app.page.keyboard.down(key);
  await app.page.keyboard.press(keys.at(-1)!);
  for (const key of keys.slice(0, -1)) await app.page.keyboard.up(key);
};
const leaveFields = (): Promise<void> =>
  app.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());

/** A new scene with the Keeper, made with the pointer. */
async function newScene(): Promise<void> {
  await app.open('/');
  await app.press('button', 'New scene');
  await app.press('button', 'Character');
  await (await app.page.waitForSelector('[role=menuitem] ::-p-text(Keeper)'))!.click();
  await app.page.waitForSelector('[data-lane]');
}

/** Searches a clip and drags it to the end of the lane. */
async function dropAtEnd(clip: string): Promise<void> {
  const before = (await app.segments()).length;
  await app.page.click('[aria-label="Search clips"]', { count: 3 });
  await app.page.type('[aria-label="Search clips"]', clip);
  await app.page.waitForSelector(`[data-index="0"] [data-clip="${clip}"]`);
  const last = before > 0 ? await box(`[data-segment="${await lastId()}"]`) : null;
  const lane = await box('[data-lane]');
  const to = last ? { x: last.x + last.width + 12, y: lane.y + 40 } : { x: lane.x + 30, y: lane.y + 40 };
  await app.drag(await middle(`[data-clip="${clip}"]`), to);
  await app.until(async () => (await app.segments()).length === before + 1, `${clip} is dropped`);
}

/** Bakes the character to GLB and gives the motion. */
async function baked() {
  await app.press('button', 'Bake');
  await app.press('button', 'Bake GLB');
  const bytes = await app.downloaded('.glb');
  const { clips } = await readMotionFile(bytes, 'out.glb');
  await app.page.goBack();
  await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
  return clips[0]!;
}

describe('a piece of two minutes', () => {
  it('is put together with the pointer alone', async () => {
    await newScene();
    for (const clip of ['Walk start', 'Walk', 'Turn round', 'Walk', 'Walk stop', 'Idle'])
      await dropAtEnd(clip);
    await app.press('button', 'Zoom out');
    await app.press('button', 'Zoom out');
    await app.press('button', 'Zoom out');
    await app.press('button', 'Zoom out');
    // The second walk and the idle are drawn out to whole cycles; what is behind the walk is in its way and is moved first.
    const idle = await idOf('Idle');
    const edge = await app.grip(idle, 'end');
    await app.choose('Drag edges to', 'Edges: Loop');
    const scroller = await box('[data-timeline]');
    await app.drag(edge, { x: scroller.x + scroller.width - 60, y: edge.y });
    await app.until(async () => /×\d/.test((await app.segments()).at(-1)!), 'the idle repeats');
    for (let i = 0; i < 6 && spanOf((await app.segments()).at(-1)!)[1] < 3600; i++) {
      // Beyond what is in sight the timeline scrolls along.
      const end = await app.grip(idle, 'end');
      await app.page.mouse.move(end.x, end.y);
      await app.page.mouse.down();
      await app.page.mouse.move(end.x - 20, end.y, { steps: 3 });
      await app.page.mouse.move(scroller.x + scroller.width - 2, end.y, { steps: 5 });
      const before = (await app.segments()).at(-1)!;
      await app.until(
        async () => spanOf((await app.segments()).at(-1)!)[1] > spanOf(before)[1] + 300,
        'it scrolls',
      );
      await app.page.mouse.up();
    }
    const labels = await app.segments();
    expect(spanOf(labels.at(-1)!)[1]).toBeGreaterThanOrEqual(3600);
    for (const seam of await app.seams()) expect(seam).toMatch(/: good, /);
    const clip = await baked();
    expect(clip.frames).toBe(spanOf(labels.at(-1)!)[1] - spanOf(labels[0]!)[0]);
  });

  it('is put together with the keyboard alone', async () => {
    const focused = (): Promise<string> =>
      app.page.evaluate(() => {
        const e = document.activeElement as HTMLElement | null;
        return e?.dataset.clip
          ? `clip ${e.dataset.clip}`
          : (e?.getAttribute('aria-label') ?? e?.textContent ?? '').trim();
      });
    const tabTo = async (name: RegExp): Promise<void> => {
      for (let i = 0; i < 150 && !name.test(await focused()); i++) await app.page.keyboard.press('Tab');
      expect(await focused()).toMatch(name);
    };
    await app.open('/');
    await app.find('link', 'The Lamp Round');
    await tabTo(/^New scene$/);
    await press('Enter');
    await app.find('button', 'Character');
    await tabTo(/^Character$/);
    await press('Enter');
    await app.page.waitForSelector('[role=menuitem] ::-p-text(Keeper)');
    await app.page.keyboard.type('kee');
    await app.until(async () => /^Keeper/.test(await focused()), 'the Keeper has the focus');
    await press('Enter');
    await app.page.waitForSelector('[data-lane]');
    // The cue sheet takes every beat by name.
    await leaveFields();
    await press('q');
    for (const clip of ['Walk start', 'Walk', 'Walk stop', 'Idle']) {
      const count = (await app.page.$$('[data-beat]')).length;
      await tabTo(/^New beat of Keeper$/);
      await app.page.keyboard.type(clip);
      await press('Enter');
      await app.until(
        async () => (await app.page.$$('[data-beat]')).length === count + 1,
        `${clip} is added`,
      );
    }
    await leaveFields();
    await tabTo(/^Repeats of Walk$/);
    await app.page.keyboard.type('40');
    await press('Enter');
    await tabTo(/^Repeats of Idle$/);
    await app.page.keyboard.type('20');
    await press('Enter');
    await leaveFields();
    await press('q');
    await app.until(async () => spanOf((await app.segments()).at(-1)!)[1] > 3600, 'it is two minutes long');
    const end = spanOf((await app.segments()).at(-1)!)[1];
    for (const seam of await app.seams()) expect(seam).toMatch(/: good, /);
    await tabTo(/^Bake$/);
    await press('Enter');
    await app.find('button', 'Bake GLB');
    await tabTo(/^Bake GLB$/);
    await press('Enter');
    const { clips } = await readMotionFile(await app.downloaded('.glb'), 'out.glb');
    expect(clips[0]!.frames).toBe(end);
  });
});

describe('by hand', () => {
  it('a box takes hold of several segments, which are dragged as one', async () => {
    await newScene();
    for (const clip of ['Walk start', 'Walk', 'Walk stop']) await dropAtEnd(clip);
    const before = (await app.segments()).map(spanOf);
    const second = await box(`[data-segment="${await idOf('Walk, ')}"]`);
    const lane = await box('[data-lane]');
    const third = await box(`[data-segment="${await idOf('Walk stop')}"]`);
    await app.drag(
      { x: third.x + third.width + 80, y: lane.y + lane.height + 12 },
      { x: second.x + second.width / 2, y: lane.y + 60 },
    );
    await app.page.waitForSelector('[aria-label=Selection] ::-p-text(2 segments)');
    await app.drag({ x: third.x + 60, y: third.y + 20 }, { x: third.x + 60 + 125, y: third.y + 20 });
    await app.until(async () => spanOf((await app.segments())[2]!)[0] > before[2]![0] + 50, 'both are moved');
    const now = (await app.segments()).map(spanOf);
    expect(now[0]).toEqual(before[0]);
    expect(now[2]![0] - before[2]![0]).toBe(now[1]![0] - before[1]![0]);
    await press('Control', 'Z');
    await app.until(
      async () => spanOf((await app.segments())[2]!)[0] === before[2]![0],
      'one undo takes it back',
    );
  });

  it('a group that is turned on the floor takes along what follows', async () => {
    const straight = await baked();
    await app.page.click(`[data-segment="${await idOf('Walk, ')}"]`);
    await leaveFields();
    await press('g');
    await app.page.waitForSelector('[aria-label="Group 1, group of 1"]');
    await app.fill('Turn', '90');
    await app.page.waitForSelector('::-p-aria(Undo floor place of Group 1)');
    const turned = await baked();
    const rootAt = (clip: typeof straight, frame: number) => {
      const [x, z, turn] = rootTrack(clip).subarray(frame * 3, frame * 3 + 3) as unknown as [
        number,
        number,
        number,
      ];
      return { x, z, turn };
    };
    const [walkStart, end] = [spanOf((await app.segments())[1]!), straight.frames - 1];
    expect(turned.frames).toBe(straight.frames);
    // Before it nothing has changed; of all that follows the end is turned by as much as it is itself.
    expect(rootAt(turned, 20).x).toBeCloseTo(rootAt(straight, 20).x, 4);
    const moveAt = (frame: number) =>
      composeMoves(rootAt(turned, frame), invertMove(rootAt(straight, frame)));
    const [atWalk, atEnd] = [moveAt(walkStart[0] + 22), moveAt(end)];
    expect(Math.abs(Math.cos(atEnd.turn))).toBeLessThan(0.02);
    expect(atEnd.x).toBeCloseTo(atWalk.x, 1);
    expect(atEnd.z).toBeCloseTo(atWalk.z, 1);
  });

  it('cuts at the playhead, freezes, and leaves the wrong alone', async () => {
    const count = (await app.segments()).length;
    const ruler = await box('[data-ruler]');
    await app.page.mouse.click(ruler.x + 40 * 1.25, ruler.y + 8);
    await app.page.click(`[data-segment="${await idOf('Walk start')}"]`);
    await press('c');
    await app.until(async () => (await app.segments()).length === count + 1, 'it is cut');
    expect((await app.segments()).slice(0, 2).map(spanOf)[0]![1]).toBe(40);
    await press('Control', 'Z');
    await app.until(async () => (await app.segments()).length === count, 'it is whole again');
  });

  it('pastes beats from a spreadsheet, and says what it cannot read', async () => {
    await newScene();
    await press('q');
    const sheet =
      'character\tclip\trepeats\tseam\nKeeper\tWalk start\t1\t\nKeeper\tWalk\t3\t\nKeeper\tFly\t1\t\nKeeper\tWalk stop\t1\tcrossfade 10';
    await app.page.focus('[aria-label="Beats; paste a table here"]');
    await app.page.evaluate((text) => {
      const data = new DataTransfer();
      data.setData('text/plain', text);
      document.activeElement!.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
      );
    }, sheet);
    await app.until(async () => (await app.page.$$('[data-beat]')).length === 3, 'three beats are there');
    await app.page.waitForSelector('[role=alert] ::-p-text(no clip is called “Fly”)');
    const stop = await app.page.$('[aria-label="Seam before Walk stop"]');
    expect(await stop!.evaluate((e) => (e as HTMLInputElement).value)).toBe('crossfade 10');
    // Switched off the walk takes no time; moved down it comes last.
    await app.page.click('[aria-label="Enable Walk"]');
    await app.page.focus('[aria-label="Clip of Walk start"]');
    await press('Alt', 'ArrowDown');
    const names = (): Promise<string[]> =>
      app.page.$$eval('[data-beat] [aria-label^="Clip of"]', (all) =>
        all.map((e) => (e as HTMLInputElement).value),
      );
    await app.until(async () => (await names()).join() === 'Walk,Walk start,Walk stop', 'it moved down');
    // By its grip, with the pointer, and back with the keyboard.
    const grip = async (name: string): Promise<{ x: number; y: number }> => {
      const box = (await (await app.page.$(`[aria-label="Move ${name}"]`))!.boundingBox())!;
      return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
    };
    const [from, to] = [await grip('Walk stop'), await grip('Walk start')];
    await app.page.mouse.move(from.x, from.y);
    await app.page.mouse.down();
    await app.page.mouse.move(from.x, from.y - 8, { steps: 3 });
    await app.page.mouse.move(to.x, to.y - 2, { steps: 8 });
    await app.page.mouse.up();
    await app.until(async () => (await names()).join() === 'Walk,Walk stop,Walk start', 'it was dragged up');
    await app.page.focus('[aria-label="Move Walk stop"]');
    await press('Alt', 'ArrowDown');
    await app.until(async () => (await names()).join() === 'Walk,Walk start,Walk stop', 'it went down again');
    await leaveFields();
    await press('q');
    await app.until(async () => (await app.segments()).length === 2, 'the lanes follow');
    expect(app.faults).toEqual([]);
  });
});

describe('the document', () => {
  const openAgain = async (): Promise<Page> => {
    const page = await app.browser.newPage();
    await page.goto(app.page.url());
    await page.waitForSelector('[data-segment]', { timeout: 60_000 });
    return page;
  };
  const labels = async (page: Page): Promise<string[]> => {
    await app.joinsSettled(page);
    return page.$$eval('[data-segment]', (all) => all.map((e) => e.getAttribute('aria-label')!));
  };

  it('a second tab is told, follows, and takes over without a loss', async () => {
    await newScene();
    await dropAtEnd('Walk start');
    const other = await openAgain();
    await other.waitForSelector('[role=status] ::-p-text(Open in another tab)');
    await app.page.bringToFront();
    await dropAtEnd('Walk');
    await other.bringToFront();
    await other.waitForFunction(() => document.querySelectorAll('[data-segment]').length === 2);
    await (await other.waitForSelector('::-p-aria([name="Edit here instead"][role="button"])'))!.click();
    await other.waitForFunction(() => !document.body.innerText.includes('Open in another tab'));
    await other.click('[data-segment]');
    await other.keyboard.press('d');
    await other.waitForFunction(() => document.querySelectorAll('[data-segment]').length === 3);
    const done = await labels(other);
    await app.page.bringToFront();
    await app.page.waitForSelector('[role=status] ::-p-text(Open in another tab)');
    await app.until(async () => (await app.segments()).join() === done.join(), 'the first tab follows');
    // What is closed lets go: the first tab has it again, with everything in it.
    await other.close();
    await app.page.waitForFunction(() => !document.body.innerText.includes('Open in another tab'));
    expect(await app.segments()).toEqual(done);
  });

  it('a tab killed in the middle of a drag loses the drag alone', async () => {
    const before = await app.segments();
    const page = await openAgain();
    await (await page.waitForSelector('::-p-aria([name="Edit here instead"][role="button"])'))!.click();
    await page.waitForFunction(() => !document.body.innerText.includes('Open in another tab'));
    const grip = (await (await page.waitForSelector(`[data-segment="${await lastId()}"]`))!.boundingBox())!;
    await page.mouse.move(grip.x + 30, grip.y + 20);
    await page.mouse.down();
    await page.mouse.move(grip.x + 260, grip.y + 20, { steps: 6 });
    await page.waitForFunction(
      (old) =>
        [...document.querySelectorAll('[data-segment]')].map((e) => e.getAttribute('aria-label')).join() !==
        old,
      {},
      before.join(),
    );
    await page.close({ runBeforeUnload: false });
    const again = await openAgain();
    expect(await labels(again)).toEqual(before);
    await again.close();
  });

  it('says at once when storage is full, and offers the scene as a file', async () => {
    await app.page.bringToFront();
    await app.page.waitForFunction(() => !document.body.innerText.includes('Open in another tab'));
    await app.page.evaluate(() => {
      const kept = IDBObjectStore.prototype.add;
      (window as unknown as { full: boolean }).full = true;
      IDBObjectStore.prototype.add = function (...args: Parameters<typeof kept>) {
        if ((window as unknown as { full: boolean }).full && this.name === 'changes')
          throw new DOMException('full', 'QuotaExceededError');
        return kept.apply(this, args);
      };
    });
    await app.page.click('[data-segment]');
    await press('d');
    await app.page.waitForSelector('[role=alert] ::-p-text(The last edit is not kept)');
    await app.press('button', 'Save as file');
    expect((await app.downloaded('.warper')).length).toBeGreaterThan(10_000);
    await app.page.evaluate(() => ((window as unknown as { full: boolean }).full = false));
    await app.page.waitForSelector('[role=alert]', { hidden: true, timeout: 20_000 });
    const now = await app.segments();
    await app.page.reload();
    await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
    expect(await app.segments()).toEqual(now);
  });

  it('scenes are renamed, duplicated, and removed with a way back', async () => {
    await app.open('/');
    await app.pressInMenu('More for The Lamp Round', 'Duplicate');
    await app.find('link', 'The Lamp Round copy');
    await app.pressInMenu('More for The Lamp Round copy', 'Rename');
    await app.page.waitForSelector('input[aria-label="Name of the scene"]');
    await app.page.keyboard.type('Second round');
    await press('Enter');
    await app.find('link', 'Second round');
    await app.pressInMenu('More for Second round', 'Remove');
    await app.page.waitForSelector('::-p-aria([name="Second round"][role="link"])', { hidden: true });
    await app.press('button', 'Undo');
    await app.find('link', 'Second round');
    expect(app.faults).toEqual([]);
  });
});
