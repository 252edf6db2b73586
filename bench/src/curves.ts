import type { LayerLane, PoseKey, Scene, ValueKey } from '@warper/core';
import { PLAIN_LAYER, ROOT_CURVES, defined } from '@warper/core';
import { writeSceneFile } from '@warper/formats';
import type { Page } from 'puppeteer-core';
import { openScene, rigLibrary, sceneOfLanes } from './arranging';
import { makeRig } from './rig';
import type { Scripting } from './timeline';
import { inBrowser, traced } from './timeline';

const JOINTS = 65;
const KEYS = 10_000;

/** A layer of as many curves as its joints, root and weight have, 200 with 65 joints, each of as many keys. */
function layerOfCurves(character: string, keys: number): LayerLane {
  const sway = (f: number, phase: number): number =>
    Math.sin(f / 37 + phase) * 0.3 + Math.sin(f / 7 + phase) * 0.05;
  const pose = (frame: number, phase: number): PoseKey => {
    const x = Math.round(sway(frame, phase) * 1e4) / 1e4;
    return { frame, rotation: [x, 0, 0, Math.sqrt(1 - x * x)], curve: 'smooth', tangent: null, into: null };
  };
  const value = (frame: number, phase: number): ValueKey => ({
    frame,
    value: sway(frame, phase),
    curve: 'smooth',
    tangent: null,
    into: null,
  });
  const list = <K>(make: (frame: number, phase: number) => K, phase: number): K[] =>
    Array.from({ length: keys }, (_, frame) => make(frame, phase));
  return {
    ...PLAIN_LAYER,
    id: 'curves',
    character,
    name: 'Curves',
    blend: 'additive',
    keys: Object.fromEntries(makeRig(JOINTS).names.map((name, j) => [name, list(pose, j)])),
    rootKeys: Object.fromEntries(ROOT_CURVES.map((curve, i) => [curve, list(value, i)])),
    weight: Array.from({ length: keys }, (_, f) => [f, 0.5 + 0.4 * Math.sin(f / 90)] as const),
  };
}

/** What a picture costs in scripts while 200 curves of 10,000 keys are panned, and while a key of one is dragged; beside a page that draws all. */
export async function benchCurves(): Promise<void> {
  const { library, clips, body } = await rigLibrary();
  const base = sceneOfLanes(clips, body, 1, 200, 'bones');
  const layer = layerOfCurves(defined(base.characterOrder[0]), KEYS);
  const scene: Scene = {
    ...base,
    lanes: { ...base.lanes, curves: layer },
    laneOrder: [...base.laneOrder, 'curves'],
  };
  const packed = writeSceneFile(scene, library);
  await inBrowser(async (page, origin) => {
    await openScene(page, origin, packed);
    await page.click('::-p-text(Curves)');
    await page.keyboard.press('y');
    await page.waitForSelector('[data-curves]', { timeout: 60_000 });
    await new Promise((resolve) => setTimeout(resolve, 5000));
    const panned = await traced(page, () => pan(page));
    // Keys are taken where they can be told apart.
    for (let i = 0; i < 10; i++) await page.keyboard.press('+');
    await page.waitForSelector('[data-curve-key]', { timeout: 60_000 });
    await new Promise((resolve) => setTimeout(resolve, 3000));
    const dragged = await traced(page, () => drag(page));
    const plain = await plainCanvas(page);
    for (const [what, own] of [
      ['panned', panned],
      ['a key dragged', dragged],
    ] as const)
      print(what, own, plain);
  });
}

async function pan(page: Page): Promise<void> {
  const { x, y } = await middle(page);
  await page.mouse.move(x, y);
  for (let i = 0; i < 80; i++) {
    await page.keyboard.down('Shift');
    await page.mouse.wheel({ deltaY: 60 });
    await new Promise((resolve) => setTimeout(resolve, 40));
  }
  await page.keyboard.up('Shift');
}

async function drag(page: Page): Promise<void> {
  const key = defined((await page.$('[data-curve-key]')) ?? undefined);
  const { x, y } = defined((await key.boundingBox()) ?? undefined);
  await page.mouse.move(x + 6, y + 6);
  await page.mouse.down();
  for (let i = 0; i < 40; i++) {
    await page.mouse.move(x + 6, y + 6 + Math.sin(i / 4) * 40);
    await new Promise((resolve) => setTimeout(resolve, 60));
  }
  await page.mouse.up();
}

async function middle(page: Page): Promise<{ x: number; y: number }> {
  const area = defined((await page.$('[data-curves]')) ?? undefined);
  const { y, height } = defined((await area.boundingBox()) ?? undefined);
  return { x: 700, y: y + height / 2 };
}

function print(what: string, own: Scripting, plain: Scripting): void {
  const ratio = (plain.median / own.median).toFixed(1);
  console.log(
    `200 curves of ${KEYS} keys, ${what}: scripts ${own.median.toFixed(1)} ms a picture (95 %: ${own.p95.toFixed(1)}), ` +
      `${ratio} x a plain canvas that draws every key (${plain.median.toFixed(1)} ms)`,
  );
}

/** A page that draws as many keys of as many curves as lines, all in every picture, while it is panned. */
async function plainCanvas(page: Page): Promise<Scripting> {
  await page.goto('about:blank');
  await page.evaluate((keys) => {
    const canvas = document.body.appendChild(document.createElement('canvas'));
    canvas.width = 1132;
    canvas.height = 230;
    const ctx = canvas.getContext('2d')!;
    const curves = Array.from({ length: 200 }, (_, c) =>
      Float64Array.from({ length: keys }, (_, f) => 115 + 80 * Math.sin(f / 37 + c)),
    );
    let left = 0;
    const draw = (): void => {
      left += 6;
      ctx.clearRect(0, 0, canvas.width, canvas.height);
      for (const values of curves) {
        ctx.beginPath();
        for (let f = 0; f < values.length; f++) ctx.lineTo(f * 0.11 - left, values[f]!);
        ctx.stroke();
      }
      requestAnimationFrame(draw);
    };
    requestAnimationFrame(draw);
  }, KEYS);
  return traced(page, () => new Promise((resolve) => setTimeout(resolve, 8000)));
}
