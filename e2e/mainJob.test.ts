import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { rootTrack } from '@warper/core/kernels';
import { readMotionFile } from '@warper/formats';
import validator from 'gltf-validator';
import { Application, made } from './application';
import { measure } from './performance';

let app: Application;

/** Where the turn ends, and where the second walk begins. */
const TURN_ENDS = 224;
let second = 0;

beforeAll(async () => {
  app = await Application.start();
});
afterAll(() => app.stop());

const sources = async (name: string) =>
  (await readMotionFile(new Uint8Array(readFileSync(made(name))), name)).clips[0]!;

describe('walk x3, turn round, walk x2 by hand', () => {
  it('is put together with the pointer', async () => {
    await app.open('/');
    await app.find('link', 'The Lamp Round');
    await app.press('button', 'New scene');
    await app.press('button', 'Character');
    await (await app.page.waitForSelector('[role=menuitem] ::-p-text(Keeper)'))!.click();
    await app.page.waitForSelector('[data-lane]');
    await app.dropClip('Walk', 0);
    await app.fill('Repeats', '1+2');
    await app.until(
      async () => (await app.segments())[0] === 'Walk ×3, frames 0 to 90',
      'the walk is repeated',
    );
    await app.dropClip('Turn round', 80);
    await app.dropClip('Walk', 215);
    await app.fill('Repeats', '2');
    await app.until(
      async () => (await app.segments()).length === 3 && (await app.segments())[2]!.includes('×2'),
      'the second walk is repeated',
    );
    const labels = await app.segments();
    expect(labels.slice(0, 2)).toEqual(['Walk ×3, frames 0 to 90', 'Turn round, frames 82 to 224']);
    second = Number(/frames (\d+)/.exec(labels[2]!)![1]);
    // The length rule of crossfades: 8 frames at least.
    expect(TURN_ENDS - second).toBeGreaterThanOrEqual(8);
    expect(TURN_ENDS - second).toBeLessThanOrEqual(24);
    expect(labels[2]).toBe(`Walk ×2, frames ${second} to ${second + 60}`);
    for (const seam of await app.seams()) expect(seam).toMatch(/: good, /);
  });

  it('bakes to a GLB in which the second walk goes on where and as the turn ended', async () => {
    await app.press('button', 'Bake');
    await app.press('button', 'Bake GLB');
    const bytes = await app.downloaded('.glb');
    const { issues } = await validator.validateBytes(bytes);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const { clips, bodies } = await readMotionFile(bytes, 'baked.glb');
    const clip = clips[0]!;
    expect(bodies[0]!.skinned).toBe(true);
    expect(clip.frames).toBe(second + 60);
    // The clips' own largest pops and steps: a seam may add at most 1 cm and 4 cm to them.
    const own = [
      measure(await sources('keeper-walk.glb'), 0, 31),
      measure(await sources('keeper-turn-round.glb'), 0, 142),
    ];
    const most = (key: 'popCm' | 'stepCm' | 'turnDegrees'): number => Math.max(...own.map((m) => m[key]));
    for (const [from, to] of [
      [82, 91],
      [second, TURN_ENDS + 1],
    ] as const) {
      const m = measure(clip, from, to);
      expect(m.popCm).toBeLessThan(most('popCm') + 1);
      expect(m.stepCm).toBeLessThan(most('stepCm') + 4);
      expect(m.turnDegrees).toBeLessThan(most('turnDegrees') + 3);
    }
    const root = rootTrack(clip);
    const way = (a: number, b: number): [number, number] => [
      root[b * 3]! - root[a * 3]!,
      root[b * 3 + 1]! - root[a * 3 + 1]!,
    ];
    const [x1, z1] = way(15, 75);
    const [x2, z2] = way(second + 10, second + 55);
    const cosine = (x1 * x2 + z1 * z2) / (Math.hypot(x1, z1) * Math.hypot(x2, z2));
    expect(cosine).toBeLessThan(-0.999);
    expect(Math.hypot(x2, z2) / 1.5).toBeCloseTo(1.3, 1);
  });

  it('bakes to BVH too', async () => {
    await app.choose('Format', 'BVH');
    await app.press('button', 'Bake BVH');
    const { clips } = await readMotionFile(await app.downloaded('.bvh'), 'baked.bvh');
    expect(clips[0]!.frames).toBe(second + 60);
    expect(clips[0]!.rate).toBe(30);
  });

  it('is all there after a reload, and undo still knows the way back', async () => {
    await app.press('link', 'Untitled');
    await app.page.waitForSelector('[data-segment]');
    await app.page.reload();
    await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
    expect(await app.segments()).toHaveLength(3);
    await app.press('button', 'Undo repeats of Walk');
    await app.until(
      async () => (await app.segments())[2] === `Walk, frames ${second} to ${second + 30}`,
      'the repeat is undone',
    );
    await app.press('button', 'Redo repeats of Walk');
    await app.until(async () => (await app.segments())[2]!.includes('×2'), 'the repeat is done again');
  });

  it('moves, trims, repeats and crossfades by dragging', async () => {
    const box = async (selector: string): Promise<{ x: number; y: number; width: number; height: number }> =>
      (await (await app.page.waitForSelector(selector))!.boundingBox())!;
    const last = (
      await app.page.$$eval('[data-segment]', (all) => all.map((e) => (e as HTMLElement).dataset.segment!))
    )[2]!;
    const end = await app.grip(last, 'end');
    // One cycle of 30 frames further: the edge snaps to whole cycles.
    await app.drag(end, { x: end.x + 30 * 1.25 + 2, y: end.y });
    await app.until(
      async () => (await app.segments())[2] === `Walk ×3, frames ${second} to ${second + 90}`,
      'the edge repeats',
    );
    const body = await box(`[data-segment="${last}"]`);
    await app.drag({ x: body.x + 50, y: body.y + 20 }, { x: body.x + 50 + 100, y: body.y + 20 });
    await app.until(
      async () => (await app.segments())[2]!.includes(`frames ${second + 80} `),
      'the segment is moved',
    );
    expect((await app.seams())[1]).toMatch(/bad|look/);
    // Free of snapping, or a step near by would draw it.
    await app.page.keyboard.down('Alt');
    await app.drag({ x: body.x + 150, y: body.y + 20 }, { x: body.x + 50, y: body.y + 20 });
    await app.page.keyboard.up('Alt');
    await app.until(
      async () => (await app.segments())[2]!.includes(`frames ${second} `),
      'it is dragged back over its neighbour',
    );
    expect((await app.seams())[1]).toMatch(/: good, /);
    const turn = (
      await app.page.$$eval('[data-segment]', (all) => all.map((e) => (e as HTMLElement).dataset.segment!))
    )[1]!;
    const edge = await app.grip(turn, 'start');
    await app.drag(edge, { x: edge.x + 25, y: edge.y });
    await app.until(
      async () => /Turn round, frames (9\d|10\d) to 224/.test((await app.segments())[1]!),
      'the start is trimmed',
    );
  });

  it('left the page without an error, and the machine without a request', () => {
    expect(app.faults).toEqual([]);
  });
});
