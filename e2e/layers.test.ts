import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { defined, jointOfRole, makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '@warper/core';
import { rootTrack } from '@warper/core/kernels';
import { Application } from './application';
import type { Baked } from './baked';
import { bakeClip, jointPath } from './baked';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
  await app.newKeeperScene();
  await app.dropClip('Idle', 0);
});
afterAll(() => app.stop());

const baked = (): Promise<Baked> => bakeClip(app);

const seek = (frame: number): Promise<void> => app.seek(frame);
const pegs = (): Promise<string[]> =>
  app.page.$$eval('[role=slider][aria-label^="Key at"]', (all) =>
    all.map((e) => e.getAttribute('aria-label') ?? ''),
  );

describe('a door that pushes the Keeper back', () => {
  let plain: Baked;

  it('is two keys on a layer, which stand on its lane', async () => {
    plain = await baked();
    await defined(await app.page.$('::-p-text(1 segment)')).click();
    await app.press('button', 'Add a layer');
    await app.fill('Name', 'Door');
    await seek(40);
    await app.press('button', 'Key the root at frame 40');
    await seek(48);
    await app.fill('Forward', '-0.4');
    await app.until(async () => (await pegs()).length === 2, 'both keys stand on the lane');
    expect(await pegs()).toEqual(['Key at frame 40 of Door', 'Key at frame 48 of Door']);
  });

  it('has the baked body go back by 0.4 m in 8 frames, its feet step after it, and stand still', async () => {
    const pushed = await baked();
    const [own, moved] = [rootTrack(plain), rootTrack(pushed)];
    const back = (f: number): number =>
      Math.hypot(moved[f * 3]! - own[f * 3]!, moved[f * 3 + 1]! - own[f * 3 + 1]!);
    expect(back(40)).toBeLessThan(1e-3);
    expect(back(48)).toBeCloseTo(0.4, 3);
    expect(back(100)).toBeCloseTo(0.4, 3);
    for (const foot of ['leftFoot', 'rightFoot'] as const) {
      const places = jointPath(pushed, foot);
      const step = (f: number): number =>
        Math.hypot(places[f + 1]![0]! - places[f]![0]!, places[f + 1]![2]! - places[f]![2]!);
      const swinging = Array.from({ length: 100 }, (_, f) => f).filter((f) => step(f) > 2e-3);
      expect(swinging.length).toBeGreaterThan(3);
      // One swing of at most as many frames as it may take.
      expect(swinging.at(-1)! - swinging[0]!).toBeLessThan(17);
      expect(swinging.at(-1)!).toBeLessThan(70);
    }
  });

  it('has keys that are dragged, moved by arrow keys, and removed', async () => {
    const peg = defined(await app.page.$('[aria-label="Key at frame 48 of Door"]'));
    const { x, y, width, height } = defined(await peg.boundingBox());
    const from = { x: x + width / 2, y: y + height / 2 };
    await app.drag(from, { x: from.x + 12 * 1.25, y: from.y });
    await app.until(async () => (await pegs())[1] === 'Key at frame 60 of Door', 'it is dragged');
    await defined(await app.page.$('[aria-label="Key at frame 60 of Door"]')).focus();
    await app.key('ArrowLeft');
    await app.until(async () => (await pegs())[1] === 'Key at frame 59 of Door', 'it is moved by a key');
    await defined(await app.page.$('[aria-label="Key at frame 59 of Door"]')).focus();
    await app.key('Delete');
    await app.until(async () => (await pegs()).length === 1, 'it is gone');
    await app.blur();
    for (let i = 0; i < 3; i++) await app.key('z', 'Control');
    await app.until(async () => (await pegs())[1] === 'Key at frame 48 of Door', 'all is as it was');
  });

  it('has a span and a weight that are set on the card and dragged on the lane', async () => {
    await app.choose('In force', 'Between');
    await app.until(
      async () => (await app.page.$('[aria-label="End of the span of Door"]')) !== null,
      'its ends are there',
    );
    const value = (name: string): Promise<number> =>
      app.page.$eval(`[aria-label="${name}"]`, (e) => Number(e.getAttribute('aria-valuenow')));
    const before = await value('End of the span of Door');
    await defined(await app.page.$('[aria-label="End of the span of Door"]')).focus();
    await app.key('ArrowRight', 'Shift');
    await app.until(async () => (await value('End of the span of Door')) === before + 10, 'it ends later');
    await app.press('button', 'Add weight at the playhead');
    const point = defined(await app.page.waitForSelector('[aria-label="Weight 1 of Door"]'));
    const box = defined(await point.boundingBox());
    await app.drag({ x: box.x + 4, y: box.y + 4 }, { x: box.x + 4, y: box.y + 19 });
    await app.until(async () => (await value('Weight 1 of Door')) < 60, 'it weighs less');
    expect(await value('Weight 1 of Door')).toBeGreaterThan(30);
  });

  it('has a mask that is marked on the body, by pointer and by keys, and chosen by name', async () => {
    const bones = (): Promise<string> =>
      app.page.$eval('::-p-aria([name="Bones"][role="textbox"])', (e) => (e as HTMLInputElement).value);
    const limb = '[aria-label="Mask on the body"] [role=checkbox]';
    const arm = await app.page.$eval(`${limb}[aria-label="right lower arm"]`, (e) => {
      e.scrollIntoView({ block: 'center' });
      const { x, y, width, height } = e.getBoundingClientRect();
      return { x: x + width / 2, y: y + height / 2 };
    });
    await app.page.mouse.click(arm.x, arm.y);
    await app.until(async () => (await bones()) === 'hips*, rightLowerArm*: 0', 'it is taken out');
    await app.page.$eval(`${limb}[aria-label="head"]`, (e) => (e as SVGElement).focus());
    await app.key('Enter', 'Shift');
    await app.until(async () => (await bones()).endsWith(', head: 0'), 'the head alone is taken out');
    await app.choose('Part of the body', 'Left arm');
    await app.until(async () => (await bones()) === 'leftUpperArm*', 'a part is chosen by its name');
    expect(
      await app.page.$$eval(`${limb}[aria-checked=true]`, (all) => all[0]?.getAttribute('aria-label')),
    ).toBe('left upper arm');
    expect(await app.barriers()).toEqual([]);
  });

  it('has a hand that reaches where it is told to, by its handle and by numbers, for a while', async () => {
    await defined(await app.page.$('::-p-text(1 segment)')).click();
    await app.press('button', 'Add a layer');
    await app.fill('Name', 'Rail');
    await app.choose('Part of the body', 'Whole body');
    await seek(60);
    await app.choose('Joint', 'rightHand');
    const place = (axis: string): Promise<number> =>
      app.page.$eval(`::-p-aria([name="Reach ${axis}"][role="textbox"])`, (e) =>
        Number((e as HTMLInputElement).value),
      );
    const before = [await place('X'), await place('Y'), await place('Z')];
    await app.fill('Reach Y', String(defined(before[1]) + 0.2));
    await app.until(async () => (await pegs()).includes('Key at frame 60 of Rail'), 'it is keyed');
    expect(await place('Y')).toBeCloseTo(defined(before[1]) + 0.2, 3);
    expect(await place('X')).toBeCloseTo(defined(before[0]), 2);
    // The layer is in force around the key only.
    expect(await app.page.$('[aria-label="End of the span of Rail"]')).not.toBeNull();
    await seek(20);
    await app.until(
      async () => Math.abs((await place('Y')) - defined(before[1])) < 0.02,
      'it was lower before',
    );
    const clip = await baked();
    const hand = jointOfRole(clip.skeleton, 'rightHand') * 3 + 1;
    const height = (f: number): number =>
      defined(
        poseToWorld(
          clip.skeleton,
          samplePose(clip, f, makePoseBuffer(clip.skeleton)),
          makeWorldPose(clip.skeleton),
        ).positions[hand],
      );
    expect(height(60) - height(20)).toBeGreaterThan(0.17);
    expect(Math.abs(height(118) - height(20))).toBeLessThan(0.03);
  });

  it('asked for nothing outside, and threw nothing', () => {
    expect(app.faults).toEqual([]);
  });
});
