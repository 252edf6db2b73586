import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { rootTrack } from '@warper/core/kernels';
import { readMotionFile } from '@warper/formats';
import { Application } from './application';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
});
afterAll(() => app.stop());

const first = async (): Promise<string> => (await app.segments())[0]!;
const card = (): Promise<string> => app.page.$eval('aside[aria-label="Selection"]', (e) => e.innerText);

async function baked(): Promise<Awaited<ReturnType<typeof readMotionFile>>> {
  await app.press('button', 'Bake');
  await app.press('button', 'Bake GLB');
  const bytes = await app.downloaded('.glb');
  await app.page.goBack();
  await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
  return readMotionFile(bytes, 'baked.glb');
}

async function newScene(body: string, clip: string): Promise<void> {
  await app.open('/');
  await app.find('link', 'The Lamp Round');
  await app.press('button', 'New scene');
  await app.press('button', 'Character');
  await (await app.page.waitForSelector(`[role=menuitem] ::-p-text(${body})`))!.click();
  await app.page.waitForSelector('[data-lane]');
  await app.dropClip(clip, 0);
}

describe('a segment’s card', () => {
  it('plays a walk backwards, holds its ends and ramps it, in whole frames', async () => {
    await newScene('Keeper', 'Walk');
    await app.fill('Repeats', '3');
    await app.until(async () => (await first()) === 'Walk ×3, frames 0 to 90', 'it is repeated');
    await app.press('checkbox', 'Reverse');
    await app.fill('Hold last pose', '12');
    await app.until(async () => (await first()).endsWith('frames 0 to 102'), 'its end is held');
    await app.press('button', 'Add speed curve point');
    await app.find('button', 'Remove speed curve point 1');
    expect(await first()).toMatch(/frames 0 to 102$/);
  });

  it('undoes each of them by name', async () => {
    for (let i = 0; i < 3; i++) {
      await app.page.keyboard.down('Control');
      await app.page.keyboard.press('z');
      await app.page.keyboard.up('Control');
    }
    await app.until(async () => (await first()) === 'Walk ×3, frames 0 to 90', 'all is as it was');
  });

  it('sends the walk through a mark, which the baked file hits', async () => {
    await app.press('button', 'Add mark at the playhead');
    await app.fill('Hit after', '60');
    await app.fill('X', '0.5');
    await app.fill('Z', '2.4');
    await app.fill('Facing', '30');
    const { clips } = await baked();
    const root = rootTrack(clips[0]!);
    expect(Math.hypot(root[180]! - 0.5, root[181]! - 2.4)).toBeLessThan(0.01);
    expect(clips[0]!.frames).toBe(90);
  });

  it('restores the travel of a walk in place', async () => {
    await newScene('Keeper', 'Walk in place');
    await app.fill('Repeats', '4');
    await app.choose('Travel', 'Rebuilt from the feet');
    const { clips } = await baked();
    const root = rootTrack(clips[0]!);
    const last = (clips[0]!.frames - 1) * 3;
    expect(Math.hypot(root[last]! - root[0]!, root[last + 1]! - root[1]!)).toBeCloseTo((5.2 * 119) / 120, 1);
  });

  it('finds the loops of a clip', async () => {
    await newScene('Keeper', 'Walk start');
    await app.press('button', 'Find loops');
    const loops = await app.page.waitForSelector('ul[aria-label="Loops"] button');
    await loops!.click();
    await app.until(async () => (await first()).includes('frames 0 to 31'), 'the loop is taken');
  });
});

describe('other bodies, held feet and layers', () => {
  it('a clip of the Keeper plays on the Visitor, whose joints have other names', async () => {
    await newScene('Visitor', 'Walk');
    const { clips } = await baked();
    expect(clips[0]!.skeleton.names).toContain('l_knee');
    const root = rootTrack(clips[0]!);
    expect(root[(clips[0]!.frames - 1) * 3 + 1]! - root[1]!).toBeGreaterThan(1);
  });

  it('feet are held, and a layer moves an arm, keyed at the playhead', async () => {
    await newScene('Keeper', 'Walk');
    const plain = (await baked()).clips[0]!;
    await (await app.page.$('::-p-text(1 segment)'))!.click();
    await app.press('checkbox', 'Lock planted feet');
    await app.press('button', 'Add a layer');
    await app.choose('Joint', 'leftUpperArm');
    await app.press('button', 'Key it at frame 0');
    await app.fill('Rotation Z', '40');
    await app.until(async () => (await card()).includes('Frame 0'), 'there is a key');
    const posed = (await baked()).clips[0]!;
    const { names } = posed.skeleton;
    const apart = (name: string): number => {
      const o = (10 * names.length + names.indexOf(name)) * 4;
      return Math.max(
        ...[0, 1, 2, 3].map((k) => Math.abs(posed.rotations[o + k]! - plain.rotations[o + k]!)),
      );
    };
    expect(apart('leftUpperArm')).toBeGreaterThan(0.1);
    expect(apart('rightUpperArm')).toBeLessThan(1e-5);
  });

  it('asked for nothing outside, and threw nothing', () => {
    expect(app.faults).toEqual([]);
  });
});
