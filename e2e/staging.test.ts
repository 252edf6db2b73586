import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { defined, makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '@warper/core';
import { quatConjugate, quatRotate } from '@warper/core/kernels';
import { assembleCues, parseCueSheet, writeSceneFile } from '@warper/formats';
import { Application, made } from './application';
import type { Baked } from './baked';
import { bakeAll, jointPath } from './baked';
import { shareOfOtherPixels } from './pictures';

let app: Application;

beforeAll(async () => {
  app = await Application.start();
  await app.open('/scene/lamp-round');
  await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
  await app.press('button', 'Props');
}, 180_000);
afterAll(async () => {
  const { faults } = app;
  await app.stop();
  expect(faults).toEqual([]);
});

/** Chooses who holds the thing in hand from the playhead on. */
async function holdBy(name: string): Promise<void> {
  const field = await app.page.waitForSelector('[role=combobox][aria-label="Hold by"]');
  await defined(field).evaluate((e) => e.scrollIntoView({ block: 'center' }));
  await app.choose('Hold by', name);
  await app.until(async () => /^Tether/.test(await app.card()), 'a tether is in hand');
}

type WorldPose = ReturnType<typeof makeWorldPose>;

const apart = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(...a.map((v, k) => v - defined(b[k])));

/** The step of a path to a frame, metres. */
const step = (path: readonly (readonly number[])[], frame: number): number =>
  apart(defined(path[frame]), defined(path[frame - 1]));

/** World transforms of a baked clip at a frame. */
function worldAt({ skeleton, ...clip }: Baked, frame: number): WorldPose {
  return poseToWorld(
    skeleton,
    samplePose({ skeleton, ...clip }, frame, makePoseBuffer(skeleton)),
    makeWorldPose(skeleton),
  );
}

/** A place of the scene in the axes of a joint. */
function relative(clip: Baked, joint: string, place: readonly number[], frame: number): number[] {
  const { positions, rotations } = worldAt(clip, frame);
  const j = clip.skeleton.names.indexOf(joint);
  const out = Float64Array.from(place, (v, k) => v - defined(positions[j * 3 + k]));
  quatRotate(quatConjugate(rotations, j * 4, new Float64Array(4), 0), 0, out, 0, out, 0);
  return [...out];
}

/** Where a place in the axes of a joint is in the scene. */
function placeIn(clip: Baked, joint: string, place: readonly number[], frame: number): number[] {
  const { positions, rotations } = worldAt(clip, frame);
  const j = clip.skeleton.names.indexOf(joint);
  const out = quatRotate(rotations, j * 4, Float64Array.from(place), 0, new Float64Array(3), 0);
  return [...out].map((v, k) => v + defined(positions[j * 3 + k]));
}

describe('props on the workbench', () => {
  it('are dragged into the view, and stand where they are dropped', async () => {
    const item = defined(await app.page.$('[data-prop="lantern"]'));
    await item.scrollIntoView();
    const from = defined(await item.boundingBox());
    const view = defined(await (await app.page.$('section[aria-label^="View"] canvas'))!.boundingBox());
    await app.drag(
      { x: from.x + 60, y: from.y + 20 },
      { x: view.x + view.width * 0.4, y: view.y + view.height * 0.7 },
    );
    await app.until(async () => (await app.card()).startsWith('Prop\n'), 'the lantern is in hand');
    expect(await app.card()).toMatch(/Lantern[\s\S]*Width[\s\S]*Above the floor/);
    const place = await app.page.$$eval('aside[aria-label=Selection] input', (all) =>
      all.map((e) => e.value),
    );
    // Not in the middle, where the keyboard puts it.
    expect(place.slice(5, 7)).not.toEqual(['0', '0']);
    await app.fill('Above the floor', '0.8');
    await app.until(async () => (await app.card()).includes('Put on the floor'), 'it is raised');
  });

  it('are picked up, passed from hand to hand and set down without a jump, as the baked file shows', async () => {
    await app.seek(60);
    await holdBy('Keeper');
    await app.choose('At joint', 'left hand');
    await app.seek(300);
    await app.select('Lantern');
    await holdBy('Keeper');
    await app.choose('At joint', 'right hand');
    await app.until(async () => /right hand/.test(await app.card()), 'the right hand holds it');
    await app.seek(520);
    await app.press('button', 'End at the playhead');
    const ribbons = await app.page.$$eval('[data-tether]', (all) => all.map((e) => e.ariaLabel));
    expect(ribbons).toEqual([
      expect.stringMatching(/^Lantern held by Keeper, .*60 to 300$/),
      expect.stringMatching(/^Lantern held by Keeper, .*300 to 520$/),
    ]);
    const find = await bakeAll(app);
    const [thing, keeper] = [find('lantern'), find('hips')];
    const grip = jointPath(thing, 'grip');
    const offset = (hand: string) => (frame: number) => relative(keeper, hand, defined(grip[frame]), frame);
    for (const [hand, first, last] of [
      ['leftHand', 60, 299],
      ['rightHand', 300, 519],
    ] as const) {
      const at = offset(hand);
      // As if it were part of the hand, to a tenth of a millimetre.
      for (let f = first; f <= last; f += 13) expect(apart(at(f), at(first))).toBeLessThan(1e-4);
    }
    // At each switch it moves no millimetre a frame beyond what one of the hands would move it.
    for (const switched of [60, 300, 520])
      for (const f of [switched - 1, switched, switched + 1]) {
        const moved = ['leftHand', 'rightHand'].map((hand) => {
          const held = offset(hand)(f - 1);
          return apart(placeIn(keeper, hand, held, f), defined(grip[f - 1]));
        });
        expect(step(grip, f)).toBeLessThan(Math.max(...moved) + 0.001);
      }
    for (const frame of [1, 40, 59, 522, 600]) expect(step(grip, frame)).toBeLessThan(1e-6);
    // Carried through the walk.
    expect(apart(defined(grip[300]), defined(grip[60]))).toBeGreaterThan(2);
  });
});

/** Adds a prop from the palette. */
async function addProp(shape: string): Promise<void> {
  await app.press('button', 'Props');
  const item = defined(await app.page.waitForSelector(`[data-prop="${shape}"]`));
  await item.focus();
  await item.press('Enter');
  await app.until(
    async () => new RegExp(`^Prop\\s+${shape}`, 'i').test(await app.card()),
    `${shape} is in hand`,
  );
}

describe('what follows along one axis, and who is carried', () => {
  it('stands the Keeper 0.8 m before the Visitor, face to face, at the playhead', async () => {
    await app.open('/scene/lamp-round');
    const walk = await app.page.waitForSelector('[data-segment][aria-label^="Set down"]', {
      timeout: 60_000,
    });
    await defined(walk).focus();
    await app.seek(560);
    await app.choose('Whom', 'Visitor');
    await app.press('button', 'Meet at frame 560');
    const find = await bakeAll(app);
    const [keeper, visitor] = [find('hips'), find('sacroiliac')];
    const across = (clip: Baked, left: string, right: string): number[] => {
      const { positions } = worldAt(clip, 560);
      const at = (name: string): Float64Array => {
        const j = clip.skeleton.names.indexOf(name);
        return positions.slice(j * 3, j * 3 + 3);
      };
      const [l, r] = [at(left), at(right)];
      return [defined(l[0]) - defined(r[0]), defined(l[2]) - defined(r[2])];
    };
    const [hips, other] = [jointPath(keeper, 'hips')[560], jointPath(visitor, 'sacroiliac')[560]].map(
      defined,
    );
    // The roots stand below the hips, to within their sway.
    const far = Math.hypot(
      defined(hips?.[0]) - defined(other?.[0]),
      defined(hips?.[2]) - defined(other?.[2]),
    );
    expect(Math.abs(far - 0.8)).toBeLessThan(0.15);
    // Their lefts point opposite ways.
    const [a, b] = [across(keeper, 'leftUpperLeg', 'rightUpperLeg'), across(visitor, 'l_hip', 'r_hip')];
    const cosine =
      (defined(a[0]) * defined(b[0]) + defined(a[1]) * defined(b[1])) / (Math.hypot(...a) * Math.hypot(...b));
    expect(cosine).toBeLessThan(-0.8);
  });

  it('slides the storm shutter along its rail only, from touch to touch', async () => {
    await app.seek(600);
    await addProp('storm shutter');
    await holdBy('Keeper');
    await app.choose('At joint', 'right hand');
    await app.choose('Held at', 'shutter');
    await app.press('checkbox', 'Moves this joint only');
    await app.choose('Axes', 'of what is held');
    for (const chip of ['Moves along Y', 'Moves along Z', 'Turns about X', 'Turns about Y', 'Turns about Z'])
      await app.press('button', chip);
    await app.seek(680);
    await app.press('button', 'End at the playhead');
    const find = await bakeAll(app);
    const [rail, panel] = ['rail', 'shutter'].map((name) => jointPath(find('rail'), name)) as [
      number[][],
      number[][],
    ];
    const [first] = panel as [number[]];
    for (const [f, place] of panel.entries()) {
      // Its rail stands along X: height and side stay to a tenth of a millimetre.
      expect(Math.abs(defined(place[1]) - defined(first[1]))).toBeLessThan(1e-4);
      expect(Math.abs(defined(place[2]) - defined(first[2]))).toBeLessThan(1e-4);
      expect(apart(defined(rail[f]), defined(rail[0]))).toBeLessThan(1e-6);
      if (f < 600 || f > 681) expect(step([place, defined(panel[Math.max(0, f - 1)])], 1)).toBeLessThan(1e-6);
    }
    const xs = panel.slice(600, 680).map((p) => defined(p[0]));
    expect(Math.max(...xs) - Math.min(...xs)).toBeGreaterThan(0.05);
  });

  it('carries the Visitor on the hand cart that the Keeper pulls', async () => {
    await app.seek(120);
    await addProp('hand cart');
    await holdBy('Keeper');
    // Pulled over the floor: it neither rises nor tilts.
    await app.choose('At joint', 'hips');
    for (const chip of ['Moves along Y', 'Turns about X', 'Turns about Z']) await app.press('button', chip);
    await app.select('Visitor');
    await holdBy('Hand cart');
    expect(await app.card()).toMatch(/Visitor held by Hand cart[\s\S]*seat/);
    const find = await bakeAll(app);
    const cart = find('cart');
    const wheels = jointPath(cart, 'cart');
    for (const place of wheels) expect(Math.abs(defined(place[1]))).toBeLessThan(1e-5);
    expect(apart(defined(wheels[260]), defined(wheels[120]))).toBeGreaterThan(1);
    const visitor = find('sacroiliac');
    const hips = jointPath(visitor, 'sacroiliac');
    const at = (f: number): number[] => relative(cart, 'seat', defined(hips[f]), f);
    for (let f = 120; f < 700; f += 29) expect(apart(at(f), at(120))).toBeLessThan(1e-4);
  });

  it('refuses a ring of tethers, with the names in it', async () => {
    await app.select('Keeper');
    const before = (await app.page.$$('[data-tether]')).length;
    await app.choose('Hold by', 'Lantern');
    await app.page.waitForSelector('::-p-text(a ring of tethers cannot be)');
    expect((await app.page.$$('[data-tether]')).length).toBe(before);
  });

  it('is told to screen readers without a barrier', async () => {
    expect(await app.barriers()).toEqual([]);
  });
});

/** A scene in which the Keeper climbs two steps of 17 cm on a stair whose two have 15. */
async function lowStair(): Promise<string> {
  const sheet = parseCueSheet({
    format: 'warper-cues',
    version: 1,
    rate: 30,
    name: 'Two steps',
    characters: [
      { name: 'Keeper', body: 'keeper.glb', cues: [{ clip: 'keeper-climb.glb' }] },
      { name: 'Stair', prop: { shape: 'stair', size: [1, 0.3, 0.6] }, start: { x: 0, z: 0.51, heading: 0 } },
    ],
  });
  const { scene, library } = await assembleCues(sheet, (name) =>
    Promise.resolve(new Uint8Array(readFileSync(made(name)))),
  );
  const path = join(mkdtempSync(join(tmpdir(), 'warper-stair-')), 'stair.warper');
  writeFileSync(path, writeSceneFile(scene, library));
  return path;
}

describe('a prop that is moved', () => {
  it('onto another one stands on it, off it on the floor, as the baked file has it', async () => {
    await app.newKeeperScene();
    await app.dropClip('Idle', 0);
    await addProp('box');
    await app.fill('X', '2');
    await app.fill('Z', '1');
    await addProp('lantern');
    const above = (): Promise<string> =>
      app.page.$$eval(
        'aside[aria-label=Selection] input',
        (all) => all.find((e) => e.labels?.[0]?.textContent.startsWith('Above the floor'))?.value ?? '',
      );
    await app.fill('X', '2.1');
    expect(await above()).toBe('0');
    await app.fill('Z', '1.1');
    await app.until(async () => (await above()) === '0.4', 'it stands on the box');
    await app.page.waitForSelector('[aria-label="Undo start of Lantern"]');
    const bottom = async (): Promise<number> => {
      const find = await bakeAll(app);
      return defined(defined(jointPath(find('lantern'), 'lantern')[0])[1]);
    };
    expect(await bottom()).toBeCloseTo(0.4, 4);
    await app.press('button', 'Put on the floor');
    await app.until(async () => (await above()) === '0', 'it is in the box');
    await app.press('button', 'Put on Box');
    await app.until(async () => (await above()) === '0.4', 'it stands on the box again');
    await app.page.waitForSelector('[aria-label="Undo height of Lantern"]');
    await app.fill('X', '3');
    await app.until(async () => (await above()) === '0', 'it stands on the floor beside it');
    await app.press('button', 'Undo start of Lantern');
    await app.until(async () => (await above()) === '0.4', 'one step back it stands on the box');
  });
});

describe('feet on a stair', () => {
  it('that is too low are told, marked in the view, and mended', async () => {
    await app.open('/');
    await defined(await app.page.waitForSelector('header input[type=file]')).uploadFile(await lowStair());
    await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
    await app.press('button', 'Continuity');
    const row = defined(await app.page.waitForSelector('[data-item^="tread:"]', { timeout: 60_000 }));
    expect(await row.evaluate((e) => (e as HTMLElement).innerText)).toMatch(
      /Keeper on Stair[\s\S]*float 4.0 cm[\s\S]*The right foot is 4 cm over Stair/,
    );
    // It is marked while it lasts, and as long as the list is there.
    await app.press('button', 'Keeper on Stair');
    const view = defined(await app.page.$('canvas'));
    await app.viewAtRest();
    const marked = await view.screenshot();
    await app.choose('Show', 'Ignored');
    await app.page.waitForSelector('[data-item]', { hidden: true });
    // It is drawn again, and comes to rest again.
    await app.page.waitForFunction((c) => c.width < 1.5 * c.clientWidth, {}, view);
    await app.viewAtRest();
    const share = await shareOfOtherPixels(app.page, marked, await view.screenshot());
    expect(share).toBeGreaterThan(0.0001);
    expect(share).toBeLessThan(0.01);
    await app.choose('Show', 'Needs a look');
    await app.press('button', 'Find a mend');
    await app.page.waitForSelector('::-p-text(lower the clip by 4.0 cm)', { timeout: 60_000 });
  });
});
