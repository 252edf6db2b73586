import { readFileSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Scene, Segment } from '@warper/core';
import { bodyLane, compile, defined, measureSeams } from '@warper/core';
import { assembleCues, parseCueSheet, readMotionFile, readSceneFile } from '@warper/formats';
import { Application } from './application';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
  await app.open('/');
  await app.find('link', 'The Lamp Round');
  await app.hasAllClips();
});
afterAll(() => app.stop());

const CLIPS = ['Turn left 90', 'Wave', 'Walk start', 'Look out', 'Idle', 'Walk stop'];
const FILES = ['turn-left-90', 'wave', 'walk-start', 'look-out', 'idle', 'walk-stop'];
const card = (): Promise<string> => app.card();
const key: Application['key'] = (...keys) => app.key(...keys);
const blur = (): Promise<void> => app.blur();
const seams = (): Promise<string[]> => app.seams();
const select = async (name: RegExp): Promise<void> => {
  const labels = await app.seams();
  const index = labels.findIndex((label) => name.test(label));
  const seam = defined((await app.page.$$('[data-seam]'))[index]);
  await seam.focus();
  await seam.press('Enter');
};
async function newScene(): Promise<void> {
  await app.open('/');
  await app.press('button', 'New scene');
  await app.press('button', 'Character');
  await defined(await app.page.waitForSelector('[role=menuitem] ::-p-text(Keeper)')).click();
  await app.page.waitForSelector('[data-lane]');
}
/** The document as the scene file has it. */
async function savedScene(): Promise<{ scene: Scene; seams: ReturnType<typeof measureSeams> }> {
  const [, id] = /scene\/([^/?]+)/.exec(app.page.url()) ?? [];
  await app.until(
    async () => (await app.page.$eval('header [role=status]', (e) => e.textContent)) === 'saved',
    'it is saved',
  );
  const { scene, library } = await readSceneFile(await app.savedAsFile('Untitled'), 'scene.warper');
  await app.open(`/scene/${id}`);
  await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
  return { scene, seams: measureSeams(defined(compile(scene, library).characters[0]), 30) };
}
/** What a choice decides about a segment. */
const decided = ({ in: from, out, start, seam }: Segment) => {
  const { gap: _, ...rest } = seam;
  return { in: from, out, start, seam: rest };
};

describe('joins chosen by themselves', () => {
  it('are good for six clips dropped in an order that nobody planned, in the file too', async () => {
    await newScene();
    await app.dropClip(defined(CLIPS[0]), 0);
    for (const clip of CLIPS.slice(1)) {
      const before = (await app.segments()).length;
      const item = await app.lookFor(clip);
      await item.click({ count: 2 });
      await app.until(async () => (await app.segments()).length === before + 1, `${clip} is there`);
    }
    const labels = await seams();
    expect(labels).toHaveLength(5);
    for (const label of labels) expect(label).toMatch(/: good, /);
    const { scene, seams: measured } = await savedScene();
    for (const seam of measured) {
      expect(seam.grade).toBe('good');
      expect(seam.chosen?.why).toMatch(/^Frame \d+ onto \d+/);
    }
    expect(measured.some((s) => s.kind === 'step')).toBe(true);
    await app.press('button', 'Bake');
    await app.press('button', 'Bake GLB');
    const { clips } = await readMotionFile(await app.downloaded('.glb'), 'out.glb');
    await app.page.goBack();
    await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
    const last = defined(defined(bodyLane(scene, defined(scene.characterOrder[0]))).segments.at(-1));
    expect(defined(clips[0]).frames).toBeGreaterThan(defined(scene.segments[last]).start);
  });

  it('are the same that a cue sheet chooses, to the last digit', async () => {
    const { scene } = await savedScene();
    const sheet = parseCueSheet({
      format: 'warper-cues',
      version: 1,
      rate: 30,
      seams: 'auto',
      characters: [
        { name: 'Keeper', body: 'keeper.glb', cues: FILES.map((name) => ({ clip: `keeper-${name}.glb` })) },
      ],
    });
    const { scene: laidOut } = await assembleCues(sheet, (name) =>
      Promise.resolve(new Uint8Array(readFileSync(new URL(`../demo/made/${name}`, import.meta.url)))),
    );
    const [ours, sheets] = [scene, laidOut].map((s) =>
      defined(bodyLane(s, defined(s.characterOrder[0]))).segments.map((id) =>
        decided(defined(s.segments[id])),
      ),
    );
    expect(defined(ours).slice(1)).toEqual(defined(sheets).slice(1));
    expect(defined(ours)[0]).toMatchObject({ in: defined(sheets)[0]?.in, out: defined(sheets)[0]?.out });
  });

  it('mend themselves where one between two is deleted, in one step of undo', async () => {
    const before = await seams();
    await defined(await app.page.$('[data-segment][aria-label^="Look out"]')).focus();
    await key('Delete');
    await app.until(async () => (await app.segments()).length === 5, 'it is gone');
    const labels = await seams();
    expect(labels).toHaveLength(4);
    expect(labels.find((l) => l.startsWith('Seam from Walk start to Idle'))).toMatch(/: good, /);
    await blur();
    await key('z', 'Control');
    await app.until(async () => (await app.seams()).join() === before.join(), 'all is as it was');
  });

  it('say what was chosen, are made plain by a key, and chosen again by another', async () => {
    await select(/^Seam from Turn left 90 to Wave/);
    await app.until(async () => /Frame \d+ onto \d+/.test(await card()), 'the choice is said');
    const chosen = await seams();
    await key('J', 'Shift');
    await app.until(async () => /Set by hand/.test(await card()), 'it is plain');
    expect((await seams())[0]).not.toMatch(/: good, /);
    await key('j');
    await app.until(async () => /Frame \d+ onto \d+/.test(await card()), 'it is chosen again');
    expect((await seams())[0]).toBe(chosen[0]);
  });

  it('have the feet of a made step leave and land when they are told to', async () => {
    const { seams: measured } = await savedScene();
    const index = measured.findIndex((s) => s.kind === 'step');
    await select(new RegExp(`at frame ${defined(measured[index]).frame}:`));
    await app.until(async () => /Footfalls/.test(await card()), 'the footfalls are there');
    const before = defined(measured[index]);
    const at = defined(defined(before.footfalls.leftFoot)[0])[1] - before.frame;
    // By a key, and then by hand.
    const thumb = await app.page.waitForSelector('[role=slider][aria-label="Left foot lands"]');
    const to = at > 12 ? 'ArrowLeft' : 'ArrowRight';
    await thumb!.focus();
    await key(to);
    await app.until(async () => /Set by hand/.test(await card()), 'it is the user’s own');
    const box = defined(await thumb!.boundingBox());
    const one = to === 'ArrowLeft' ? -1 : 1;
    await app.drag(
      { x: box.x + box.width / 2, y: box.y + box.height / 2 },
      { x: box.x + box.width / 2 + one * 40, y: box.y + box.height / 2 },
    );
    // On the lane itself too, a frame back.
    await select(new RegExp(`at frame ${before.frame}:`));
    const onLane = defined(
      await app.page.waitForSelector('[role=slider][aria-label="left foot lands, on the lane"]'),
    );
    const landing = (): Promise<number> => onLane.evaluate((e) => Number(e.getAttribute('aria-valuenow')));
    const dragged = await landing();
    await onLane.focus();
    await key(one < 0 ? 'ArrowRight' : 'ArrowLeft');
    await app.until(async () => (await landing()) === dragged - one, 'it lands a frame nearer');
    const place = defined(await onLane.boundingBox());
    await app.drag({ x: place.x + 4, y: place.y + 7 }, { x: place.x + 4 + one * 2, y: place.y + 7 });
    await app.until(async () => Math.abs((await landing()) - dragged) <= 1, 'it is dragged back');
    const own = defined((await savedScene()).seams[index]);
    const [leaves, lands] = defined(defined(own.footfalls.leftFoot)[0]);
    expect(Math.abs(lands - own.frame - at)).toBeGreaterThanOrEqual(2);
    expect(leaves).toBeLessThan(lands);
    await blur();
    await key('z', 'Control');
  });
});

describe('the feet of a made step', () => {
  it('land where they are dragged in the view, or where the card says', async () => {
    await app.open('/');
    await app.press('link', 'The Lamp Round');
    await app.page.waitForSelector('[data-seam]', { timeout: 60_000 });
    await select(/^Seam from Idle to Walk start at frame 52:/);
    const field = (name: string): Promise<number> =>
      app.page.$eval(`::-p-aria([name="${name}"][role="textbox"])`, (e) =>
        Number((e as HTMLInputElement).value),
      );
    await blur();
    await key('v');
    const ruler = defined(await (await app.page.$('[data-ruler]'))?.boundingBox());
    await app.page.mouse.click(ruler.x + 1.25 * 72, ruler.y + 8);
    // The pointer says over what it is.
    const canvas = defined(await app.page.$('section[aria-label^="View"] canvas'));
    const { x, y, width, height } = defined(await canvas.boundingBox());
    const over = (): Promise<string> => canvas.evaluate((e) => (e as HTMLElement).title);
    let at: { x: number; y: number } | null = null;
    for (let v = height - 10; v > height / 2 && !at; v -= 10)
      for (let h = width / 3; h < (2 * width) / 3 && !at; h += 10) {
        await app.page.mouse.move(x + h, y + v);
        if ((await over()) === 'left foot lands here') at = { x: x + h, y: y + v };
      }
    const sole = defined(at);
    await app.drag(sole, { x: sole.x + 24, y: sole.y + 6 });
    await app.until(async () => (await field('Left foot further left')) !== 0, 'it lands elsewhere');
    const dragged = { x: await field('Left foot further left'), z: await field('Left foot further forward') };
    expect(Math.hypot(dragged.x, dragged.z)).toBeGreaterThan(0.05);
    await app.fill('Right foot further forward', '0.08');
    await app.until(async () => (await field('Right foot further forward')) === 0.08, 'it is told to');
    expect((await seams())[0]).toMatch(/^Seam from Idle to Walk start at frame 52: good, /);
    await app.press('button', 'Automatic footfalls');
    await app.until(
      async () => (await field('Left foot further left')) === 0,
      'they land by themselves again',
    );
  });
});

describe('a bridge', () => {
  it('is found where two clips do not join, shown with its measure, taken in one step and removed in one', async () => {
    await newScene();
    await app.dropClip('Walk hitching', 0);
    const item = await app.lookFor('Rope haul');
    await item.click({ count: 2 });
    await app.until(async () => (await app.segments()).length === 2, 'both are there');
    expect((await seams())[0]).not.toMatch(/: good, /);
    await select(/^Seam from Walk hitching to Rope haul/);
    await app.press('button', 'Find a mend');
    await app.page.waitForSelector('::-p-text(bridge with)', { timeout: 60_000 });
    expect(await card()).toMatch(/bridge with .*, [\d.]+ s (longer|shorter)/);
    // Seen before it is taken: on the lanes, and over and over in the view.
    await app.press('button', 'Show it');
    await app.until(async () => (await app.segments()).length === 3, 'the bridge is shown');
    await app.page.waitForSelector('button[aria-pressed=true] ::-p-text(Front and side)');
    await app.press('button', 'As it is');
    await app.until(async () => (await app.segments()).length === 2, 'it is as it was');
    await app.press('button', 'Take it');
    await app.until(async () => (await app.segments()).length === 3, 'the bridge is there');
    for (const label of await seams()) expect(label).toMatch(/: good, /);
    const [, bridge] = await app.page.$$('[data-segment]');
    await defined(bridge).focus();
    await key('Delete');
    await app.until(async () => (await app.segments()).length === 2, 'it is gone');
    expect((await seams())[0]).toMatch(/^Seam from Walk hitching to Rope haul/);
  });
});

describe('the curve of a crossfade', () => {
  it('has a handle that is dragged and moved by keys, and is in the file', async () => {
    await newScene();
    await app.dropClip('Idle', 0);
    const item = await app.lookFor('Wave');
    await item.click({ count: 2 });
    await app.until(async () => (await app.segments()).length === 2, 'both are there');
    await app.joinsSettled();
    await select(/^Seam from Idle to Wave/);
    await app.press('button', 'Crossfade');
    await app.choose('Curve', 'Custom');
    const handle = '[role=slider][aria-label="Weight of the incoming motion, point 1 of 1"]';
    const words = (): Promise<string> =>
      app.page.$eval(handle, (e) => e.getAttribute('aria-valuetext') ?? '');
    const thumb = defined(await app.page.waitForSelector(handle));
    // What is measured beside it has come, and moves nothing any more.
    await app.page.waitForSelector('[data-match-map]');
    await app.page.waitForSelector('table ::-p-text(Auto)');
    await thumb.scrollIntoView();
    expect(await words()).toBe('50 % of the overlap, 50 % weight');
    const { x, y } = defined(await thumb.boundingBox());
    await app.drag({ x: x + 6, y: y + 6 }, { x: x + 31, y: y + 25 });
    await app.until(async () => /^60 % of the overlap, (29|30|31) %/.test(await words()), 'it is dragged');
    const dragged = Number(/(\d+) % weight/.exec(await words())?.[1]);
    await app.page.$eval(handle, (e) => (e as unknown as SVGElement).focus());
    await key('ArrowUp');
    await app.until(
      async () => (await words()) === `60 % of the overlap, ${dragged + 1} % weight`,
      'it is moved by a key',
    );
    const { scene } = await savedScene();
    const [seam] = Object.values(scene.segments).flatMap((s) => (s.start > 0 ? [s.seam] : []));
    const [point] = seam?.kind === 'crossfade' ? (seam.curve as [number, number][]) : [];
    expect(point?.[0]).toBeCloseTo(0.6, 1);
    expect(point?.[1]).toBeCloseTo((dragged + 1) / 100, 1);
  });
});

describe('a seam spoilt by hand', () => {
  it('shows in its tag, on its card, in the list below the view and on its page, and is mended there', async () => {
    await app.open('/scene/lamp-round');
    await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
    await select(/^Seam from Walk to Turn round/);
    await app.fill('Nudge left', '0.4');
    await app.until(
      async () => /Walk to Turn round .*: bad/.test((await app.seams()).join('\n')),
      'its tag says so',
    );
    await blur();
    await key('K', 'Shift');
    const below = await app.page.waitForSelector('section[aria-label="Continuity"] [data-item]');
    expect(await below!.evaluate((e) => (e as HTMLElement).innerText)).toMatch(/Walk → Turn round[\s\S]*bad/);
    await app.press('link', 'Whole page');
    await app.find('heading', 'Continuity');
    const row = await app.page.waitForSelector('[data-item]', { timeout: 60_000 });
    expect(await row!.evaluate((e) => (e as HTMLElement).innerText)).toMatch(/Walk → Turn round[\s\S]*bad/);
    expect(await app.barriers()).toEqual([]);
    await app.press('button', 'Mend all seams (1)');
    await app.until(
      async () => (await app.page.$$eval('[data-item^="seam:"]', (all) => all.length)) === 0,
      'no seam is left to be looked at',
    );
    await app.press('button', 'CSV');
    expect(new TextDecoder().decode(await app.downloaded('.csv'))).toMatch(/^grade,kind/);
    await app.page.goBack();
    await app.press('button', 'Lanes');
    await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
    for (const label of await app.seams()) expect(label).toMatch(/: good, /);
    expect(app.faults).toEqual([]);
  });
});
