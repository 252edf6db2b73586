import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Clip, Scene, Segment } from '@warper/core';
import { PLAIN_CHARACTER, PLAIN_LANE, PLAIN_SEAM, PLAIN_SEGMENT, emptyScene } from '@warper/core';
import { MotionLibrary, writeGlb, writeSceneFile } from '@warper/formats';
import type { ElementHandle, Page } from 'puppeteer-core';
import { makeMotion, makeRig } from './rig';
import { benchSaving } from './saving';
import type { Scripting } from './timeline';
import { inBrowser, traced } from './timeline';

const LANES = 40;
const EACH = 50;
const PERFORMERS = 20;
const JOINTS = 65;
const FRAMES = 60;

/** A library of two motions of a rig of 65 joints. */
export async function rigLibrary(): Promise<{ library: MotionLibrary; clips: Clip[]; body: string }> {
  const skeleton = makeRig(JOINTS);
  const library = new MotionLibrary();
  const clips: Clip[] = [];
  for (const [i, name] of ['sway', 'swing'].entries()) {
    const bytes = await writeGlb(makeMotion(skeleton, FRAMES, i * 1.3, name));
    clips.push((await library.add(bytes, `${name}.glb`)).imported.clips[0]!);
  }
  return { library, clips, body: library.sources()[0]!.imported.bodies[0]!.id };
}

/** A scene of lanes with as many segments each, one behind the other in crossfades of 8. */
export function sceneOfLanes(
  clips: readonly Clip[],
  body: string,
  lanes: number,
  each: number,
  shown: 'bones' | 'nothing',
): Scene {
  const characters: Record<string, Scene['characters'][string]> = {};
  const rows: Record<string, Scene['lanes'][string]> = {};
  const segments: Record<string, Segment> = {};
  for (let l = 0; l < lanes; l++) {
    const id = `c${l}`;
    const place = { x: (l % 5) * 1.5, z: Math.floor(l / 5) * 1.5, heading: 0 };
    characters[id] = {
      ...PLAIN_CHARACTER,
      id,
      name: `Performer ${l + 1}`,
      body,
      hue: l % 8,
      start: place,
      shown,
    };
    const ids = Array.from({ length: each }, (_, i) => {
      const clip = clips[i % clips.length]!;
      const own = `${id}s${i}`;
      segments[own] = {
        ...PLAIN_SEGMENT,
        id: own,
        name: clip.name,
        clip: clip.id,
        out: FRAMES,
        start: i * (FRAMES - 8),
        seam: { ...PLAIN_SEAM, fit: 'hips' },
      };
      return own;
    });
    rows[`${id}l`] = { ...PLAIN_LANE, id: `${id}l`, kind: 'body', character: id, segments: ids };
  }
  return {
    ...emptyScene('bench'),
    characters,
    characterOrder: Object.keys(characters),
    lanes: rows,
    laneOrder: Object.keys(rows),
    segments,
  };
}

export async function openScene(page: Page, origin: string, packed: Uint8Array): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'scene-'));
  try {
    const path = join(folder, 'bench.warper');
    writeFileSync(path, packed);
    await page.goto(origin);
    const input = await page.waitForSelector('header input[type=file]');
    await (input as ElementHandle<HTMLInputElement>).uploadFile(path);
    await page.waitForSelector('[data-segment]', { timeout: 240_000 });
    await new Promise((resolve) => setTimeout(resolve, 10_000));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const STEPS = 60;
/** Waits until the page has drawn. */
const drawn = (page: Page): Promise<void> =>
  page.evaluate(() => new Promise<void>((resolve) => requestAnimationFrame(() => setTimeout(resolve))));

async function pan(page: Page): Promise<void> {
  for (let i = 0; i < STEPS; i++) {
    await page.evaluate(
      (x, y) => document.querySelector('[data-timeline]')!.scrollTo(x, y),
      i * 40,
      Math.abs(((i * 12) % 400) - 200),
    );
    await drawn(page);
  }
}

async function zoom(page: Page): Promise<void> {
  const box = (await (await page.$('[data-timeline]'))!.boundingBox())!;
  await page.mouse.move(box.x + 600, box.y + 120);
  for (let i = 0; i < STEPS; i++) {
    await page.mouse.wheel({ deltaY: i % 40 < 20 ? 90 : -90 });
    await drawn(page);
  }
}

async function drag(page: Page): Promise<void> {
  await page.evaluate(() => document.querySelector('[data-timeline]')!.scrollTo(400, 0));
  await drawn(page);
  const spot = await page.evaluate(() => {
    const middle = [...document.querySelectorAll<HTMLElement>('[data-segment]')]
      .map((e) => e.getBoundingClientRect())
      .find((r) => r.left > 500 && r.left < 700);
    return { x: middle!.left + middle!.width / 2, y: middle!.top + 30 };
  });
  await page.mouse.move(spot.x, spot.y);
  await page.mouse.down();
  for (let i = 1; i <= STEPS; i++) {
    await page.mouse.move(spot.x + 20 * Math.sin(i / 6), spot.y);
    await drawn(page);
  }
  await page.mouse.up();
}

/**
 * Has the page hand over everything to be drawn but the drawing itself: without a graphics card that is done in software,
 * and scripts would wait for it.
 */
async function leaveOutDrawing(page: Page): Promise<void> {
  await page.evaluate(() => {
    const own = WebGL2RenderingContext.prototype as unknown as Record<string, () => void>;
    for (const name of ['drawArrays', 'drawElements', 'drawArraysInstanced', 'drawElementsInstanced'])
      own[name] = () => {};
  });
}

/** Scripting of a plain page in which every one of as many blocks gets its place anew in each picture. */
async function plainPage(page: Page): Promise<Scripting> {
  await page.setContent('<main style="position:relative"></main>');
  await page.evaluate((count) => {
    const main = document.querySelector('main')!;
    for (let i = 0; i < count; i++) {
      const block = document.createElement('div');
      block.textContent = 'Walk';
      block.style.cssText = 'position:absolute;height:54px;overflow:hidden';
      main.append(block);
    }
  }, LANES * EACH);
  return traced(page, async () => {
    await page.evaluate(async (steps) => {
      const blocks = [...document.querySelectorAll('div')];
      for (let s = 0; s < steps; s++) {
        await new Promise(requestAnimationFrame);
        blocks.forEach((b, i) => {
          b.style.left = `${(i % 50) * (60 + s)}px`;
          b.style.top = `${Math.floor(i / 50) * 86}px`;
          b.style.width = `${60 + s}px`;
          b.title = `frames ${i * s} to ${i * s + 60}`;
        });
      }
    }, STEPS);
  });
}

const show = (name: string, s: Scripting, budget: string, peer: Scripting): void =>
  console.log(
    `  ${name}: ${s.median.toFixed(1)} ms median, ${s.p95.toFixed(1)} ms at the 95th percentile, of ${s.pictures} pictures (asked ${budget}); ${(s.median / peer.median).toFixed(2)} of the plain page`,
  );

/** The timeline with 2,000 segments, and the view with 20 characters, in headless Chromium. */
export async function benchArranging(): Promise<void> {
  const { library, clips, body } = await rigLibrary();
  await inBrowser(async (page, origin) => {
    const peer = await plainPage(page);
    console.log(`The timeline with ${LANES * EACH} segments on ${LANES} lanes, scripting of a picture`);
    console.log(`  plain page, every block placed anew: ${peer.median.toFixed(1)} ms median`);
    await openScene(page, origin, writeSceneFile(sceneOfLanes(clips, body, LANES, EACH, 'nothing'), library));
    show('pan', await traced(page, () => pan(page)), '8 and 16', peer);
    show('zoom', await traced(page, () => zoom(page)), '8 and 16', peer);
    show('drag', await traced(page, () => drag(page)), '8 and 16', peer);
    await benchSaving(page);
    console.log(
      `The view with ${PERFORMERS} characters of ${JOINTS} joints, scripting of a picture while it plays`,
    );
    await openScene(page, origin, writeSceneFile(sceneOfLanes(clips, body, PERFORMERS, 6, 'bones'), library));
    await leaveOutDrawing(page);
    // The first seconds make and warm up what all others use.
    await page.keyboard.press('Space');
    await new Promise((resolve) => setTimeout(resolve, 5000));
    const playing = await traced(page, () => new Promise((resolve) => setTimeout(resolve, 8000)));
    await page.keyboard.press('Space');
    show('play', playing, '4', peer);
  });
}
