import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { defined } from '@warper/core';
import { Application } from './application';
import type { Baked } from './baked';
import { bakeClip, jointPath, peakAcceleration } from './baked';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
});
afterAll(() => app.stop());

const seek = (frame: number): Promise<void> => app.seek(frame);
const valueOf = (name: string): Promise<number> =>
  app.page.$eval(`::-p-aria([name="${name}"][role="textbox"])`, (e) => Number((e as HTMLInputElement).value));
const add = async (name: string, by: number): Promise<void> =>
  app.fill(name, ((await valueOf(name)) + by).toFixed(3));
const addLayer = async (name: string): Promise<void> => {
  await defined(await app.page.$('::-p-text(1 segment)')).click();
  await app.press('button', 'Add a layer');
  await app.fill('Name', name);
};
const apart = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(...a.map((v, k) => v - defined(b[k])));

describe('leaning over the gallery rail', () => {
  let plain: Baked;
  let leaning: Baked;

  it('is an additive layer of hips, chest and a hand that are moved over the looping clip', async () => {
    await app.newKeeperScene();
    await app.dropClip('Look out', 0);
    await app.fill('Repeats', '2');
    plain = await bakeClip(app);
    await addLayer('Lean');
    await seek(100);
    await app.choose('Joint', 'hips');
    await app.press('button', 'Move');
    await add('Move Z', 0.08);
    await add('Move Y', -0.06);
    await app.choose('Joint', 'upperChest');
    await add('Move Z', 0.14);
    await app.choose('Joint', 'leftHand');
    await add('Reach Z', 0.2);
    leaning = await bakeClip(app);
    const [hips, before] = [jointPath(leaning, 'hips'), jointPath(plain, 'hips')];
    expect(defined(hips[100])[2]! - defined(before[100])[2]!).toBeGreaterThan(0.06);
    expect(defined(hips[100])[1]! - defined(before[100])[1]!).toBeLessThan(-0.05);
    const reached = apart(
      defined(jointPath(leaning, 'leftHand')[100]),
      defined(jointPath(plain, 'leftHand')[100]),
    );
    expect(reached).toBeGreaterThan(0.12);
  });

  it('keeps the feet where they stand, and leaves what is outside its span', () => {
    for (const foot of ['leftFoot', 'rightFoot']) {
      const [moved, still] = [jointPath(leaning, foot), jointPath(plain, foot)];
      for (let f = 0; f < still.length; f++)
        expect(apart(defined(moved[f]), defined(still[f]))).toBeLessThan(0.006);
    }
    const [moved, still] = [jointPath(leaning, 'head'), jointPath(plain, 'head')];
    for (const f of [0, 40, 80, 160, 300])
      expect(apart(defined(moved[f]), defined(still[f]))).toBeLessThan(1e-4);
  });

  it('is weighted down to half, and toggled off and on', async () => {
    await seek(100);
    await app.press('button', 'Add weight at the playhead');
    await app.fill('Weight', '50');
    const half = await bakeClip(app);
    const drop = (clip: Baked): number =>
      defined(jointPath(clip, 'hips')[100])[1]! - defined(jointPath(plain, 'hips')[100])[1]!;
    expect(drop(half) / drop(leaning)).toBeGreaterThan(0.35);
    expect(drop(half) / drop(leaning)).toBeLessThan(0.65);
    await app.press('button', 'Options for the layer Lean');
    await app.press('menuitemcheckbox', 'Muted ignored, as if empty');
    const off = await bakeClip(app);
    expect(off.rotations).toEqual(plain.rotations);
  });
});

describe('posture', () => {
  it('of a segment is set by fields: lower on the same feet, arms further out, in the file', async () => {
    await app.newKeeperScene();
    await app.dropClip('Idle', 0);
    const plain = await bakeClip(app);
    await app.fill('Crouch', '10');
    await app.fill('Arm clearance', '15');
    const set = await bakeClip(app);
    const at = (clip: Baked, joint: string): number[] => defined(jointPath(clip, joint)[30]);
    expect(at(plain, 'hips')[1]! - at(set, 'hips')[1]!).toBeCloseTo(0.1, 4);
    for (const foot of ['leftFoot', 'rightToes'])
      expect(apart(at(plain, foot), at(set, foot))).toBeLessThan(1e-3);
    expect(at(set, 'leftHand')[0]! - at(plain, 'leftHand')[0]!).toBeGreaterThan(0.08);
  });
});

describe('an arm that goes through the rail', () => {
  it('is lifted by one handle for a while, and comes back without a pop', async () => {
    await app.newKeeperScene();
    await app.dropClip('Wave', 0);
    const plain = await bakeClip(app);
    await addLayer('Over the rail');
    await seek(60);
    await app.choose('Joint', 'rightHand');
    await add('Reach Y', 0.06);
    const lifted = await bakeClip(app);
    const [moved, still] = [jointPath(lifted, 'rightHand'), jointPath(plain, 'rightHand')];
    expect(defined(moved[60])[1]! - defined(still[60])[1]!).toBeCloseTo(0.06, 3);
    expect(apart(defined(moved[20]), defined(still[20]))).toBeLessThan(1e-4);
    const peak = (path: readonly (readonly number[])[]): number => peakAcceleration(path, 1, 118);
    expect(peak(moved)).toBeLessThan(1.2 * peak(still));
    expect(app.faults).toEqual([]);
  });
});
