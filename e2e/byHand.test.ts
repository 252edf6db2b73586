import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Application } from './application';
import { shareOfOtherPixels } from './pictures';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
  await app.open('/');
  await (await app.find('link', 'The Lamp Round')).click();
  await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
});
afterAll(() => app.stop());

type Point = { x: number; y: number };

const cursorAt = async (x: number, y: number): Promise<string> => {
  await app.page.mouse.move(x, y);
  return app.page.evaluate(() => document.body.style.cursor);
};

/** Looks over the view, as a hand does, until the cursor tells that something can be taken. */
async function underCursor(cursor: string): Promise<Point> {
  const view = (await (await app.page.waitForSelector('section[aria-label^="View"]'))!.boundingBox())!;
  for (let y = view.y + 50; y < view.y + view.height - 10; y += 7)
    for (let x = view.x + 200; x < view.x + view.width - 200; x += 7)
      if ((await cursorAt(x, y)) === cursor) return { x, y };
  throw new Error(`Nothing in the view shows the cursor "${cursor}".`);
}

/** Middle and radius of what shows a cursor around a place, pixels. */
async function roundShape(cursor: string, { x, y }: Point): Promise<Point & { radius: number }> {
  const end = async (dx: number, dy: number, from: Point): Promise<number> => {
    let n = 0;
    while (n < 200 && (await cursorAt(from.x + dx * (n + 1), from.y + dy * (n + 1))) === cursor) n++;
    return n;
  };
  const middle = y + ((await end(0, 1, { x, y })) - (await end(0, -1, { x, y }))) / 2;
  const [left, right] = [await end(-1, 0, { x, y: middle }), await end(1, 0, { x, y: middle })];
  return { x: x + (right - left) / 2, y: middle, radius: (left + right) / 2 };
}

const field = (name: string): Promise<number> =>
  app.page
    .waitForSelector(`::-p-aria([name="${name}"][role="textbox"])`)
    .then((e) => e!.evaluate((input) => Number((input as HTMLInputElement).value)));

const leaveFields = (): Promise<void> =>
  app.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());

it('a seam whose clips have no frames left shows where it cannot go, and stays', async () => {
  await app.open('/scene/lamp-round');
  await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
  const before = await app.segments();
  const wave = (await (await app.page.waitForSelector('[data-segment][aria-label^="Wave"]'))!.boundingBox())!;
  const tag = { x: wave.x + 5, y: wave.y - 8 };
  await app.page.mouse.move(tag.x, tag.y);
  await app.page.mouse.down();
  await app.page.mouse.move(tag.x + 45, tag.y, { steps: 6 });
  const refused = (await (await app.page.waitForSelector('[data-hand-mark=refused]'))!.boundingBox())!;
  expect(refused.x).toBeGreaterThan(tag.x + 20);
  await app.page.mouse.up();
  await app.page.waitForSelector('[aria-live] ::-p-text(It cannot go further)');
  expect(await app.page.$('[data-hand-mark]')).toBeNull();
  expect(await app.segments()).toEqual(before);
});

describe('in the view', () => {
  it('a character is carried over the floor, and turned by its ring', async () => {
    await app.press('button', 'Top');
    await app.page.click('button[aria-pressed][title^="Drag up or down"]');
    const before = { x: await field('X'), z: await field('Z'), facing: await field('Facing') };
    const disc = await roundShape('move', await underCursor('move'));
    await app.drag(disc, { x: disc.x + 60, y: disc.y });
    await app.until(async () => (await field('X')) > before.x + 0.2, 'it is further right');
    // Seen from the top, what goes to the right goes along x alone.
    expect(Math.abs((await field('Z')) - before.z)).toBeLessThan(0.06);
    const moved = { x: await field('X'), z: await field('Z') };
    // The ring is 52 cm from the middle, the disc goes to 30.
    const ring = { x: disc.x + 60 + (disc.radius * 52) / 30, y: disc.y };
    expect(await cursorAt(ring.x, ring.y)).toBe('grab');
    await app.drag(ring, { x: ring.x, y: ring.y + 20 });
    await app.until(async () => Math.abs((await field('Facing')) - before.facing) >= 5, 'it is turned');
    expect({ x: await field('X'), z: await field('Z') }).toEqual(moved);
    await leaveFields();
    for (let i = 0; i < 2; i++) {
      await app.page.keyboard.down('Control');
      await app.page.keyboard.press('z');
      await app.page.keyboard.up('Control');
    }
    await app.until(async () => (await field('X')) === before.x, 'it stands where it stood');
    expect(await field('Facing')).toBe(before.facing);
  });

  it('facing is dragged along the floor path: the segment that is played there turns', async () => {
    // A press on a free place of the lanes takes everything out of hand.
    const dog = (await (await app.page.waitForSelector('[aria-label="Lane of Dog"]'))!.boundingBox())!;
    await app.page.mouse.click(dog.x + 1000, dog.y + 30);
    await app.page.waitForSelector('[aria-label=Selection] ::-p-text(frames at 30 a second)');
    const tick = await underCursor('grab');
    await app.drag(tick, { x: tick.x + 18, y: tick.y + 18 });
    const undo = await app.page.waitForSelector('[aria-label^="Undo facing of"]');
    const name = await undo!.evaluate((e) => e.getAttribute('aria-label')!);
    const chosen = await app.page.$eval('[data-segment][aria-pressed="true"]', (e) =>
      e.getAttribute('aria-label')!,
    );
    expect(chosen.startsWith(name.replace('Undo facing of ', ''))).toBe(true);
    await app.press('button', name);
    await app.press('button', 'Around');
  });
});

it('segments are copied in one scene and pasted in another, in another tab', async () => {
  await app.browser
    .defaultBrowserContext()
    .overridePermissions(app.origin, ['clipboard-read', 'clipboard-write', 'clipboard-sanitized-write']);
  await app.page.click('[data-segment][aria-label^="Turn round"]');
  await app.page.keyboard.down('Control');
  await app.page.keyboard.press('c');
  await app.page.keyboard.up('Control');
  await app.until(
    () => app.page.evaluate(async () => (await navigator.clipboard.readText()).includes('Turn round')),
    'it is on the clipboard',
  );
  const other = await app.browser.newPage();
  await other.setViewport({ width: 1280, height: 800 });
  await other.goto(`${app.origin}/`);
  await (await other.waitForSelector('::-p-aria([name="New scene"][role="button"])'))!.click();
  await (await other.waitForSelector('::-p-aria([name="Character"][role="button"])'))!.click();
  await (await other.waitForSelector('[role=menuitem] ::-p-text(Keeper)'))!.click();
  await other.waitForSelector('[data-lane]');
  await other.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await other.keyboard.down('Control');
  await other.keyboard.press('v');
  await other.keyboard.up('Control');
  const pasted = await other.waitForSelector('[data-segment][aria-label^="Turn round, frames 0 to"]');
  expect(pasted).not.toBeNull();
  await other.close();
  expect(app.faults).toEqual([]);
});

it('a locked lane keeps what is on it, and says so', async () => {
  await app.page.bringToFront();
  await app.press('button', 'Options for the lane of Keeper');
  await (await app.page.waitForSelector('[role=menuitemcheckbox] ::-p-text(Locked)'))!.click();
  const before = await app.segments();
  const wave = await app.page.waitForSelector('[data-segment][aria-label^="Wave"]');
  const { x, y, width } = (await wave!.boundingBox())!;
  await app.drag({ x: x + width / 2, y: y + 44 }, { x: x + width / 2 + 90, y: y + 44 });
  await app.page.waitForSelector('::-p-text(The lane Keeper is locked.)');
  expect(await app.segments()).toEqual(before);
});

it('a view whose graphics were interrupted says so, comes back by itself and shows the same', async () => {
  await app.open('/scene/lamp-round');
  // Seams are measured once all clips are there.
  await app.page.waitForSelector('[data-seam]', { timeout: 60_000 });
  const clip = (await (await app.page.waitForSelector('section[aria-label^="View"]'))!.boundingBox())!;
  const picture = async (): Promise<Uint8Array> => {
    // Until what is drawn has come to rest: three pictures in a row are the same.
    for (let last = new Uint8Array(), same = 0, tries = 0; ; tries++) {
      await new Promise((resolve) => setTimeout(resolve, 800));
      const shot = await app.page.screenshot({ clip, captureBeyondViewport: false });
      same = Buffer.compare(shot, last) === 0 ? same + 1 : 0;
      if (same === 2 || tries === 30) return shot;
      last = new Uint8Array(shot);
    }
  };
  const before = await picture();
  const lost = await app.page.evaluate(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('section[aria-label^="View"] canvas')!;
    const loser = canvas.getContext('webgl2')?.getExtension('WEBGL_lose_context');
    loser?.loseContext();
    return loser !== undefined && loser !== null;
  });
  expect(lost).toBe(true);
  await app.page.waitForSelector('::-p-text(were interrupted)');
  await app.page.waitForFunction(() => !document.body.textContent.includes('were interrupted'));
  // Drawn anew, an edge may come out a shade lighter here or there. A slow machine draws late.
  let share = 1;
  for (let tries = 0; tries < 5 && share >= 0.001; tries++)
    share = await shareOfOtherPixels(app.page, before, await picture());
  expect(share).toBeLessThan(0.001);
});
