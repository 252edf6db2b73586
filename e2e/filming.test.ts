import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { defined } from '@warper/core';
import { unzipSync } from 'fflate';
import type { Group, Object3D } from 'three';
import { AnimationMixer, Matrix4, PerspectiveCamera, Quaternion, Vector3 } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { Application } from './application';
import { shareOfOtherPixels } from './pictures';

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

/** The scene as it is baked into one GLB, and what puts it at a frame. */
async function baked(): Promise<{ readonly scene: Group; readonly seek: (frame: number) => void }> {
  await app.press('button', 'Bake');
  await app.find('checkbox', 'With the camera');
  await app.press('button', 'Bake GLB');
  const bytes = await app.downloaded('.glb');
  await app.page.goBack();
  await app.page.waitForSelector('[data-timeline]', { timeout: 60_000 });
  const { scene, animations } = await new GLTFLoader().parseAsync(stripped(bytes).slice().buffer, '');
  const mixer = new AnimationMixer(scene);
  for (const animation of animations) mixer.clipAction(animation).play();
  return {
    scene,
    seek: (frame) => {
      mixer.setTime(frame / 30);
      scene.updateMatrixWorld(true);
    },
  };
}

/** Node has no pictures: materials go, what moves stays. */
function stripped(bytes: Uint8Array): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const length = view.getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length))) as Record<
    string,
    unknown
  >;
  delete json.images;
  delete json.textures;
  const text = new TextEncoder().encode(
    JSON.stringify(json)
      .replace(/"baseColorTexture":\{[^}]*\},?/g, '')
      .replace(/,\}/g, '}'),
  );
  const out = bytes.slice();
  out.fill(0x20, 20, 20 + length);
  out.set(text.subarray(0, length), 20);
  return out;
}

const cameraOf = (scene: Group): PerspectiveCamera => {
  let found: PerspectiveCamera | null = null;
  scene.traverse((o) => void (o instanceof PerspectiveCamera && (found ??= o)));
  return defined(found as PerspectiveCamera | null);
};

/** Where the view drew its picture of a frame from, once it has come to rest. */
async function drawnFrom(frame: number): Promise<Matrix4> {
  let last = '';
  await app.until(async () => {
    const seen = await app.page.$eval('section[aria-label^="View"] canvas', (c) => c.dataset.camera ?? '');
    const same = seen.startsWith(`${frame} `) && seen === last;
    last = seen;
    return same;
  }, 'the view has come to rest');
  return new Matrix4().fromArray(last.split(' ').slice(1).map(Number));
}

describe('a camera', () => {
  it('that follows, looks at and keeps the Keeper has all of them in its part of the picture, all through the demonstration', async () => {
    await app.press('button', '+ Camera');
    await app.choose('Goes along with', 'Keeper');
    await app.choose('Looks at', 'Keeper');
    await app.fill('Lens', '60');
    await app.choose('Keeps', 'Keeper');
    const { scene, seek } = await baked();
    const camera = cameraOf(scene);
    const keeper = defined(scene.getObjectByName('Keeper'));
    const joints: Object3D[] = [];
    keeper.traverse((o) => void ((o as { isBone?: boolean }).isBone && joints.push(o)));
    expect(joints.length).toBeGreaterThan(15);
    const place = new Vector3();
    const box = { left: 1, right: 0, bottom: 1, top: 0 };
    for (let frame = 0; frame < 860; frame += 5) {
      seek(frame);
      for (const joint of joints) {
        const { x, y } = joint.getWorldPosition(place).project(camera);
        box.left = Math.min(box.left, (x + 1) / 2);
        box.right = Math.max(box.right, (x + 1) / 2);
        box.bottom = Math.min(box.bottom, (y + 1) / 2);
        box.top = Math.max(box.top, (y + 1) / 2);
      }
    }
    expect(box.left).toBeGreaterThan(0.149);
    expect(box.right).toBeLessThan(0.851);
    expect(box.bottom).toBeGreaterThan(0.049);
    expect(box.top).toBeLessThan(0.921);
  });

  it('is in the GLB where the view looks from: within 0.1 mm and 0.01 degree', async () => {
    await app.blur();
    const shot = defined(await app.page.waitForSelector('[data-shot]'));
    await shot.evaluate((e) => e.scrollIntoView({ block: 'center' }));
    await shot.press('Enter');
    await app.press('button', 'Edit Camera 1');
    const held = await app.find('checkbox', 'Handheld');
    await held.click();
    await app.press('button', 'Look through it');
    const { scene, seek } = await baked();
    const camera = cameraOf(scene);
    for (const frame of [0, 137, 400, 801]) {
      await app.seek(frame);
      seek(frame);
      const [place, rotation] = [new Vector3(), new Quaternion()];
      (await drawnFrom(frame)).decompose(place, rotation, new Vector3());
      expect(camera.getWorldPosition(new Vector3()).distanceTo(place)).toBeLessThan(1e-4);
      expect((camera.getWorldQuaternion(new Quaternion()).angleTo(rotation) * 180) / Math.PI).toBeLessThan(
        0.01,
      );
    }
    await app.press('button', 'Look around');
  });

  it('is seen beside the view, at every frame, while the view looks elsewhere', async () => {
    await app.press('button', 'Around');
    await app.choose('What the camera sees', 'beside');
    await app.page.waitForSelector('canvas[data-beside]');
    /** The picture beside the view as one number, and how many colours it has. */
    const seen = (): Promise<[number, number]> =>
      app.page.$eval('canvas[data-beside]', (element): [number, number] => {
        const canvas = element;
        const context = canvas.getContext('2d');
        if (!context || canvas.width < 2) return [0, 0];
        const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
        const pixels = new Uint32Array(data.buffer);
        return [pixels.reduce((sum, p, i) => (sum + p * (i % 251)) % 1e9, 0), new Set(pixels).size];
      });
    await app.seek(0);
    await app.until(async () => (await seen())[1] > 50, 'there is a picture');
    const [first] = await seen();
    await app.seek(300);
    await app.until(async () => (await seen())[0] !== first, 'it is another one at another frame');
    // The view itself is drawn as before, beside it.
    const widths = await app.page.$$eval('section[aria-label^="View"] canvas', (all) =>
      all.map((c) => c.getBoundingClientRect().width),
    );
    expect(widths).toHaveLength(2);
    for (const width of widths) expect(width).toBeGreaterThan(200);
    await app.choose('What the camera sees', 'no inset');
    expect(await app.page.$('canvas[data-beside]')).toBeNull();
  });
});

describe('shots', () => {
  const labels = (): Promise<string[]> =>
    app.page.$$eval('[data-shot]', (all) => all.map((e) => e.getAttribute('aria-label') ?? ''));

  it('are cut at the playhead, dragged with the edge between them, and undone one by one', async () => {
    await app.seek(300);
    await app.key('t');
    await app.until(async () => (await labels()).length === 2, 'there are two shots');
    await app.press('button', 'Top');
    await app.press('button', '+ Camera');
    await app.seek(600);
    await app.key('t');
    await app.until(async () => (await labels()).length === 3, 'there are three shots');
    expect(await labels()).toEqual([
      'Shot 1, Camera 1, frames 0 to 300',
      'Shot 2, Camera 1, frames 300 to 600',
      expect.stringContaining('Shot 3, Camera 2, frames 600 to'),
    ]);
    // The edge between the last two, by the keyboard.
    const edge = await app.find('slider', 'Start of Shot 3');
    await edge.focus();
    for (let i = 0; i < 3; i++) await app.page.keyboard.press('ArrowLeft');
    await app.until(
      async () => (await labels())[1] === 'Shot 2, Camera 1, frames 300 to 597',
      'they go along',
    );
    // And by the pointer.
    const at = defined(await (await app.find('slider', 'Start of Shot 3')).boundingBox());
    await app.drag({ x: at.x + at.width / 2, y: at.y + at.height / 2 }, { x: at.x + 40, y: at.y + 8 });
    await app.until(async () => !(await labels())[1]!.endsWith('597'), 'the pointer moves it');
    await app.press('button', 'Undo start of the shot Shot 3');
    await app.until(async () => (await labels())[1]!.endsWith('597'), 'it is undone');
  });

  it('are a table in which they are named, blended and put in another order', async () => {
    await app.press('button', 'Shots');
    const rows = await app.page.$$('section[aria-label="Shot list"] tbody tr');
    expect(rows).toHaveLength(3);
    const name = defined(await rows[0]!.$('input'));
    await name.click({ count: 3 });
    await name.type('The gallery');
    await name.press('Enter');
    await app.press('button', 'The gallery later');
    await app.until(async () => {
      const names = await app.page.$$eval('section[aria-label="Shot list"] tbody tr', (all) =>
        all.map((row) => row.querySelector('input')?.value),
      );
      return names.join() === 'Shot 2,The gallery,Shot 3';
    }, 'the order is another');
    expect(await app.barriers()).toEqual([]);
    await app.press('button', 'Save as CSV');
    const text = new TextDecoder().decode(await app.downloaded('.csv'));
    expect(text.split('\r\n').slice(0, 3)).toEqual([
      'Number,Shot,Camera,Lens mm,Start,End,Length,Timecode,Blend,Comment,Remark',
      expect.stringMatching(/^1,Shot 2,Camera 1,[\d.]+,0,297,297,00:00:00:00,0,,$/),
      expect.stringMatching(/^2,The gallery,Camera 1,[\d.]+,297,597,300,00:00:09:27,0,,$/),
    ]);
    await app.press('button', 'Lanes');
  });

  it('are what a film shows, cut at their very frames', async () => {
    await app.press('button', 'Bake');
    await app.press('button', 'Film');
    await app.choose('Camera', 'The shots');
    await app.choose('Format', 'Pictures');
    for (const [field, value] of [
      ['Width', '320'],
      ['Height', '180'],
      ['Start frame', '594'],
      ['End frame', '600'],
    ] as const)
      await app.fill(field, value);
    const timecode = await app.find('checkbox', 'Timecode and frame');
    if ((await timecode.evaluate((e) => e.getAttribute('aria-checked'))) === 'true') await timecode.click();
    await app.press('button', 'Make pictures');
    const pictures = Object.values(unzipSync(await app.downloaded('.zip')));
    expect(pictures).toHaveLength(6);
    const changes: number[] = [];
    for (let i = 1; i < 6; i++)
      changes.push(await shareOfOtherPixels(app.page, defined(pictures[i - 1]), defined(pictures[i])));
    // Frame 597 is the first of the last shot: the only large change is from the picture before to it.
    expect(changes.indexOf(Math.max(...changes))).toBe(2);
    expect(defined(changes[2])).toBeGreaterThan(1.8 * Math.max(...changes.filter((_, i) => i !== 2)));
    await app.page.goBack();
    await app.page.waitForSelector('[data-timeline]', { timeout: 60_000 });
  });

  it('and cameras are there after the page is loaded again', async () => {
    const before = await labels();
    expect(before).toHaveLength(3);
    await app.page.reload();
    await app.page.waitForSelector('[data-shot]', { timeout: 60_000 });
    expect(await labels()).toEqual(before);
    // What lies in the card and the lists makes the page no longer than the window.
    expect(await app.page.evaluate(() => document.documentElement.scrollHeight - innerHeight)).toBe(0);
    await app.press('button', 'Camera');
    expect(await app.barriers()).toEqual([]);
    await app.press('button', 'Front');
  });
});
