import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { defined } from '@warper/core';
import { Application } from './application';
import type { Baked } from './baked';
import { bakeAll, jointPath } from './baked';

let app: Application;

beforeAll(async () => {
  app = await Application.start();
  await app.open('/scene/lamp-round');
  await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
}, 180_000);
afterAll(async () => {
  const { faults } = app;
  await app.stop();
  expect(faults).toEqual([]);
});

/** Takes a segment in hand by the keyboard. */
async function take(name: string): Promise<void> {
  const segment = defined(await app.page.$(`[data-segment][aria-label^="${name}"]`));
  await segment.focus();
  await app.until(async () => (await app.card()).includes(name.split(' ×')[0] ?? name), `${name} is in hand`);
}

const spanOf = async (name: string): Promise<[number, number]> => {
  const label = defined((await app.segments()).find((s) => s.startsWith(name)));
  const [from = 0, to = 0] = (/frames (\d+) to (\d+)/.exec(label) ?? []).slice(1).map(Number);
  return [from, to];
};

const apart = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(...a.map((v, k) => v - defined(b[k])));

/** Metres over the floor between the hips of the Keeper and of the Visitor at a frame. */
function hipsApart(find: (joint: string) => Baked, frame: number): number {
  const [own, other] = [jointPath(find('hips'), 'hips'), jointPath(find('sacroiliac'), 'sacroiliac')];
  const [a, b] = [defined(own[frame]), defined(other[frame])];
  return Math.hypot(defined(a[0]) - defined(b[0]), defined(a[2]) - defined(b[2]));
}

describe('characters who act together', () => {
  it('have what is linked follow when an earlier beat is lengthened, and are asked once what else should wait', async () => {
    await take('Visitor nod');
    await app.press('button', 'Link to an event');
    const [, end] = await spanOf('Walk ×3');
    await app.choose('Event', `Keeper: Walk ends (${end})`);
    const nod = await spanOf('Visitor nod');
    await take('Walk ×3');
    await app.fill('Repeats', '4');
    const asked = await app.page.waitForSelector('::-p-text(Visitor nod begins 30 frames later)');
    expect(asked).not.toBeNull();
    expect(await spanOf('Visitor nod')).toEqual([nod[0] + 30, nod[1] + 30]);
    const sits = await spanOf('Dog sit');
    await app.press('button', 'Dog');
    await app.press('button', 'Wait');
    await app.until(async () => (await spanOf('Dog sit'))[0] === sits[0] + 30, 'the dog waits as well');
    expect(await app.page.$('::-p-text(What else from frame)')).toBeNull();
    // One step of undo each.
    await app.key('z', 'Control');
    await app.until(async () => (await spanOf('Dog sit'))[0] === sits[0], 'the wait is undone');
    await app.key('z', 'Control');
    await app.until(async () => (await spanOf('Visitor nod'))[0] === nod[0], 'the lengthening is undone');
  });

  it('stand to each other as they are to, still so after a beat is inserted earlier', async () => {
    await take('Set down');
    await app.seek(560);
    await app.choose('Whom', 'Visitor');
    await app.press('button', 'Meet at frame 560');
    await app.until(async () => (await app.card()).includes('From their front'), 'the meeting is in hand');
    const before = hipsApart(await bakeAll(app), 560);
    // The roots stand below the hips, to within their sway.
    expect(Math.abs(before - 0.8)).toBeLessThan(0.15);
    const [start] = await spanOf('Set down');
    await take('Walk ×3');
    await app.press('button', 'Duplicate');
    await app.until(async () => (await spanOf('Set down'))[0] > start, 'the rest is pushed on');
    await app.joinsSettled();
    const by = (await spanOf('Set down'))[0] - start;
    const after = await bakeAll(app);
    expect(Math.abs(hipsApart(after, 560 + by) - 0.8)).toBeLessThan(0.15);
    await app.key('z', 'Control');
  });

  it('lead a dog that steps with its own paws, and let it off', async () => {
    await app.select('Dog');
    await app.seek(90);
    await app.choose('Lead by', 'Keeper');
    await app.until(async () => (await app.card()).startsWith('Tether: lead'), 'the lead is in hand');
    const length = Number(
      await app.page.$eval('aside[aria-label=Selection]', (card) => {
        const field = [...card.querySelectorAll('input')].find((e) => e.labels?.[0]?.innerText === 'Length');
        return field?.value ?? '';
      }),
    );
    expect(length).toBeGreaterThan(1);
    await app.seek(360);
    await app.press('button', 'End at the playhead');
    const find = await bakeAll(app);
    const dog = find('tail');
    const neck = jointPath(dog, 'neck');
    const hand = jointPath(find('hips'), 'rightHand');
    for (let f = 140; f < 360; f += 4)
      expect(apart(defined(neck[f]), defined(hand[f]))).toBeLessThan(length + 0.05);
    // Let off, it goes nowhere by itself: it stands.
    expect(apart(defined(neck[480]), defined(neck[380]))).toBeLessThan(0.1);
    // A paw that is on the floor stays where it is.
    const paw = jointPath(dog, 'leftFrontPaw');
    const low = Math.min(...paw.map((p) => defined(p[1])));
    let planted = 0;
    for (let f = 100; f < 360; f++) {
      const [a, b] = [defined(paw[f - 1]), defined(paw[f])];
      if (defined(a[1]) > low + 0.004 || defined(b[1]) > low + 0.004) continue;
      planted++;
      expect(Math.hypot(defined(b[0]) - defined(a[0]), defined(b[2]) - defined(a[2]))).toBeLessThan(0.012);
    }
    expect(planted).toBeGreaterThan(60);
  });

  it('are pushed back by the door by 0.3 m, and the impact is on both lanes', async () => {
    const before = jointPath((await bakeAll(app))('hips'), 'hips');
    await app.press('button', 'Props');
    const item = defined(await app.page.waitForSelector('[data-prop="door"]'));
    await item.focus();
    await item.press('Enter');
    await app.until(async () => (await app.card()).startsWith('Prop\n'), 'the door is in hand');
    const at = defined(before[780]);
    await app.fill('X', (defined(at[0]) + 0.1).toFixed(2));
    await app.fill('Z', (defined(at[2]) - 0.5).toFixed(2));
    await app.select('Keeper');
    await app.seek(780);
    await app.press('button', 'Push at frame 780');
    await app.until(async () => (await app.card()).includes('Pushed by Door'), 'its layer is in hand');
    expect(await app.page.$$eval('[data-impact]', (all) => all.length)).toBe(2);
    const find = await bakeAll(app);
    const after = jointPath(find('hips'), 'hips');
    const moved = (f: number): number => {
      const [a, b] = [defined(before[f]), defined(after[f])];
      return Math.hypot(defined(b[0]) - defined(a[0]), defined(b[2]) - defined(a[2]));
    };
    expect(moved(779)).toBeLessThan(1e-4);
    for (const f of [800, 830]) expect(Math.abs(moved(f) - 0.3)).toBeLessThan(0.005);
    // The leaf swings: its edge moves until after the hit.
    const leaf = jointPath(find('leaf'), 'grip');
    expect(apart(defined(leaf[780]), defined(leaf[765]))).toBeGreaterThan(0.2);
    expect(apart(defined(leaf[700]), defined(leaf[765]))).toBeLessThan(1e-4);
  });

  it('follow a path that is clicked onto the floor, and marks that are taped to it', async () => {
    await take('Dog trot ×3');
    await app.press('button', 'Draw a path in the view');
    const view = defined(await (await app.page.$('section[aria-label^="View"] canvas'))!.boundingBox());
    for (const [x, y] of [
      [0.35, 0.75],
      [0.6, 0.8],
    ] as const) {
      await app.page.mouse.click(view.x + view.width * x, view.y + view.height * y);
      await app.until(async () => (await app.card()).includes('Along a path'), 'a point is added');
    }
    await app.until(async () => /m between its points/.test(await app.card()), 'the path is measured');
    await app.page.keyboard.press('Enter');
    expect(await app.page.$('::-p-text(Click the floor to add points)')).toBeNull();
    await app.key('z', 'Control');
    await app.key('z', 'Control');
    await take('Walk ×3');
    const [from] = await spanOf('Walk ×3');
    await app.seek(from + 60);
    await app.press('button', 'Add mark at the playhead');
    await app.until(
      async () => /Hit the mark in 2 whole cycles/.test(await app.card()),
      'whole cycles are offered',
    );
    await app.press('button', 'Hit the mark in 2 whole cycles');
    await app.until(async () => /2\.00|Walk ×2/.test((await app.segments()).join()), 'it is two cycles long');
  });

  it('have a scene of their own in the demonstration, whose props are those that the browser would make', async () => {
    await app.open('/');
    const card = await app.page.waitForSelector('a ::-p-text(The Lamp Round: Before Dark)', {
      timeout: 60_000,
    });
    await defined(card).click();
    await app.page.waitForSelector('[data-tether]', { timeout: 60_000 });
    expect((await app.page.$$('[data-tether]')).length).toBeGreaterThan(5);
    expect(await app.page.$$eval('[data-impact]', (all) => all.length)).toBe(2);
    expect(await app.page.evaluate(() => document.body.innerText)).toMatch(/All \d+ seams good/);
  });

  it('are told to screen readers without a barrier', async () => {
    expect(await app.barriers()).toEqual([]);
  });
});
