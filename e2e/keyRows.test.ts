import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { defined, makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '@warper/core';
import { quatConjugate, quatRotate } from '@warper/core/kernels';
import { Application } from './application';
import type { Baked } from './baked';
import { bakeClip, jointPath } from './baked';

let app: Application;
beforeAll(async () => {
  app = await Application.start();
  await app.newKeeperScene();
  await app.dropClip('Idle', 0);
  await addLayer('Bow');
});
afterAll(() => app.stop());

const addLayer = async (name: string): Promise<void> => {
  await defined(await app.page.$('::-p-text(1 segment)')).click();
  await app.press('button', 'Add a layer');
  await app.fill('Name', name);
};
/** The keys of the unfolded layer: "lean 20" or, in hand, "lean 20 *". */
const keys = (): Promise<string[]> =>
  app.page.$$eval('[data-keys] [data-frame]', (all) =>
    all.map((e) => {
      const { list = '', frame = '' } = (e as HTMLElement).dataset;
      return `${list.split(' ')[1]} ${frame}${e.getAttribute('aria-pressed') === 'true' ? ' *' : ''}`;
    }),
  );
const becomes = (wanted: readonly string[]): Promise<void> =>
  app.until(async () => (await keys()).join() === wanted.join(), wanted.join());
const place = async (list: string, frame: number): Promise<{ x: number; y: number }> => {
  const key = await app.page.waitForSelector(`[data-list="${list}"][data-frame="${frame}"]`);
  const { x, y, width, height } = defined((await defined(key).boundingBox()) ?? undefined);
  return { x: x + width / 2, y: y + height / 2 };
};

describe('the posture of a layer', () => {
  it('is keyed at the playhead, and bows in the file on feet that stay', async () => {
    const plain = await bakeClip(app);
    for (const [frame, lean, crouch] of [
      [40, '25', '8'],
      [20, '0', '0'],
      [80, '0', '0'],
    ] as const) {
      await app.seek(frame);
      await app.fill('Lean', lean);
      await app.fill('Crouch', crouch);
    }
    const bowed = await bakeClip(app);
    const at = (clip: Baked, joint: string, frame: number): number[] =>
      defined(jointPath(clip, joint)[frame]);
    expect(at(plain, 'hips', 40)[1]! - at(bowed, 'hips', 40)[1]!).toBeCloseTo(0.08, 4);
    expect(at(bowed, 'head', 40)[2]! - at(plain, 'head', 40)[2]!).toBeGreaterThan(0.1);
    for (const frame of [0, 30, 40, 60])
      for (const foot of ['leftFoot', 'rightToes'])
        at(plain, foot, frame).forEach((v, k) =>
          expect(Math.abs(v - defined(at(bowed, foot, frame)[k]))).toBeLessThan(1e-3),
        );
    expect(at(bowed, 'head', 90)).toEqual(at(plain, 'head', 90));
  });
});

describe('the keys of a layer, a row for each list', () => {
  it('are unfolded from its head, taken by a box, and dragged together', async () => {
    await app.press('button', 'Keys of Bow, one row for each joint');
    await becomes(['lean 20', 'lean 40', 'lean 80', 'crouch 20', 'crouch 40', 'crouch 80']);
    const [from, to] = [await place('dialKeys lean', 20), await place('dialKeys crouch', 40)];
    await app.drag({ x: from.x - 6, y: from.y - 5 }, { x: to.x + 6, y: to.y + 4 });
    await becomes(['lean 20 *', 'lean 40 *', 'lean 80', 'crouch 20 *', 'crouch 40 *', 'crouch 80']);
    // 10 frames on, without snapping to what is near.
    await app.page.keyboard.down('Alt');
    await app.drag(to, { x: to.x + 12.5, y: to.y });
    await app.page.keyboard.up('Alt');
    await becomes(['lean 30 *', 'lean 50 *', 'lean 80', 'crouch 30 *', 'crouch 50 *', 'crouch 80']);
  });

  it('are drawn out in time, moved by arrow keys and fields, and taken back', async () => {
    await defined(await app.find('slider', 'Scale the keys in hand')).focus();
    await app.key('ArrowRight', 'Shift');
    await becomes(['lean 30 *', 'lean 60 *', 'lean 80', 'crouch 30 *', 'crouch 60 *', 'crouch 80']);
    await app.page.focus('[data-list="dialKeys lean"][data-frame="30"]');
    await app.page.keyboard.press('ArrowLeft');
    await becomes(['lean 29 *', 'lean 59 *', 'lean 80', 'crouch 29 *', 'crouch 59 *', 'crouch 80']);
    await app.fill('First at frame', '20');
    await app.fill('Length', '20');
    await becomes(['lean 20 *', 'lean 40 *', 'lean 80', 'crouch 20 *', 'crouch 40 *', 'crouch 80']);
    for (let i = 0; i < 2; i++)
      await app.press(
        'button',
        i === 0 ? 'Undo scaling of keys of the layer Bow' : 'Undo move of keys of the layer Bow',
      );
    await app.until(async () => (await keys()).join().includes('lean 59'), 'two steps are taken back');
    for (let i = 0; i < 2; i++)
      await app.press(
        'button',
        i === 0 ? 'Redo move of keys of the layer Bow' : 'Redo scaling of keys of the layer Bow',
      );
    await app.until(async () => (await keys()).join().includes('lean 40'), 'and done again');
  });

  it('are copied to the playhead, and removed', async () => {
    await app.page.focus('[data-list="dialKeys crouch"][data-frame="20"]');
    await app.until(async () => (await keys()).join().includes('crouch 20 *'), 'it is in hand');
    await app.seek(100);
    await app.page.focus('[data-list="dialKeys crouch"][data-frame="40"]');
    await app.key('a', 'Control');
    await app.key('c', 'Control');
    await app.key('v', 'Control');
    await becomes([
      'lean 20',
      'lean 40',
      'lean 80',
      'lean 100 *',
      'lean 120 *',
      'lean 160 *',
      'crouch 20',
      'crouch 40',
      'crouch 80',
      'crouch 100 *',
      'crouch 120 *',
      'crouch 160 *',
    ]);
    await app.page.keyboard.press('Delete');
    await becomes(['lean 20', 'lean 40', 'lean 80', 'crouch 20', 'crouch 40', 'crouch 80']);
    expect(await app.barriers()).toEqual([]);
  });
});

/** The place that the card has what is in hand look at. */
const placeOfLook = (): Promise<number[]> =>
  Promise.all(
    ['X', 'Y', 'Z'].map(async (axis) => {
      const field = await app.find('textbox', `Place ${axis}`);
      return Number(await field.evaluate((e) => (e as HTMLInputElement).value));
    }),
  );

/** By how many degrees a head looks past a place. */
function offOf(clip: Baked, frame: number, point: readonly number[]): number {
  const { skeleton } = clip;
  const pose = samplePose(clip, frame, makePoseBuffer(skeleton));
  const { positions, rotations } = poseToWorld(skeleton, pose, makeWorldPose(skeleton));
  const head = skeleton.names.indexOf('head');
  const inverse = quatConjugate(skeleton.rest.rotations, head * 4, new Float64Array(4), 0);
  const forward = quatRotate(inverse, 0, Float64Array.of(0, 0, 1), 0, new Float64Array(3), 0);
  quatRotate(rotations, head * 4, forward, 0, forward, 0);
  const way = point.map((v, k) => v - defined(positions[head * 3 + k]));
  const dot = way.reduce((sum, v, k) => sum + v * defined(forward[k]), 0);
  return (Math.acos(Math.min(1, dot / Math.hypot(...way))) * 180) / Math.PI;
}

describe('a look', () => {
  it('is a layer that keeps the eyes on a place, in the file', async () => {
    await addLayer('Watch the light');
    await app.choose('Look at', 'A place');
    for (const [name, value] of [
      ['Place X', '1.4'],
      ['Place Y', '1.2'],
      ['Place Z', '1.8'],
    ] as const)
      await app.fill(name, value);
    const clip = await bakeClip(app);
    for (const frame of [0, 25, 70]) expect(offOf(clip, frame, [1.4, 1.2, 1.8])).toBeLessThan(0.05);
    await app.fill('Turn up to', '10');
    expect(offOf(await bakeClip(app), 70, [1.4, 1.2, 1.8])).toBeGreaterThan(20);
    await app.choose('Look at', 'Nothing');
    expect(offOf(await bakeClip(app), 70, [1.4, 1.2, 1.8])).toBeGreaterThan(25);
  });
});

describe('a held hand', () => {
  it('stays where it is while the layer bows, until it is let go, in the file', async () => {
    await addLayer('Hold on');
    for (const [frame, crouch] of [
      [50, '10'],
      [30, '0'],
    ] as const) {
      await app.seek(frame);
      await app.fill('Crouch', crouch);
    }
    await app.press('button', 'Hold the left hand from frame 30');
    await app.fill('To frame', '70');
    const path = jointPath(await bakeClip(app), 'leftHand');
    const off = (frame: number): number =>
      Math.hypot(...defined(path[frame]).map((v, k) => v - defined(defined(path[30])[k])));
    for (const frame of [36, 45, 60]) expect(off(frame)).toBeLessThan(2e-4);
    expect(off(75)).toBeGreaterThan(0.05);
    await app.press('button', 'Let go of the left hand held from frame 30');
    await app.press('button', 'Undo contacts of the layer Hold on');
    await app.find('button', 'Let go of the left hand held from frame 30');
  });
});

describe('a pose that is not keyed by itself', () => {
  const notKeyed = async (): Promise<boolean> => (await app.page.$('::-p-text(Not keyed yet)')) !== null;

  it('is nudged by keys, shown, let go with the frame, and keyed on demand', async () => {
    await addLayer('Nudge');
    await app.seek(30);
    await app.choose('Joint', 'rightHand');
    await app.press('button', 'Reach');
    await app.press('checkbox', 'Key automatically');
    await (await app.find('button', 'Nudge the right hand by arrow keys')).focus();
    await app.page.keyboard.press('ArrowUp');
    await app.until(notKeyed, 'it is shown, not keyed');
    await app.seek(31);
    await app.until(async () => !(await notKeyed()), 'it is let go');
    await app.seek(30);
    const before = await bakeClip(app);
    await (await app.find('button', 'Nudge the right hand by arrow keys')).focus();
    await app.key('ArrowUp', 'Shift');
    await app.until(notKeyed, 'it is shown again');
    await app.press('button', 'Key it');
    await app.until(async () => !(await notKeyed()), 'it is keyed');
    const after = await bakeClip(app);
    const height = (clip: Baked): number => defined(defined(jointPath(clip, 'rightHand')[30])[1]);
    expect(height(after) - height(before)).toBeCloseTo(0.1, 3);
    expect(app.faults).toEqual([]);
  });
});

describe('a look below all layers', () => {
  it('is a field of a segment, and of the character where no segment says otherwise', async () => {
    await app.newKeeperScene();
    await app.dropClip('Idle', 0);
    await defined(await app.page.$('[data-segment]')).click();
    await app.choose('Look at', 'A place');
    await app.fill('Place X', '1.4');
    expect(await app.barriers()).toEqual([]);
    const [x = 0, y = 0, z = 0] = await placeOfLook();
    expect(x).toBe(1.4);
    const clip = await bakeClip(app);
    for (const frame of [0, 25, 70]) expect(offOf(clip, frame, [x, y, z])).toBeLessThan(0.05);
    await app.choose('Look at', 'Nothing');
    await defined(await app.page.$('button[aria-pressed] ::-p-text(Keeper)')).click();
    await app.choose('Look at', 'A place');
    await app.fill('Place X', '-1.2');
    const own = await placeOfLook();
    const all = await bakeClip(app);
    for (const frame of [0, 25, 70]) expect(offOf(all, frame, own)).toBeLessThan(0.05);
    await app.choose('Look at', 'Nothing');
  });
});
