import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { defined } from '@warper/core';
import { Application } from './application';
import type { Baked } from './baked';
import { angleBetween, bakeClip } from './baked';

let app: Application;
let plain: Baked;
/** What the angle of two quaternions of 32-bit numbers may be, though they are the same. */
const FLOAT_DEGREES = 0.05;
beforeAll(async () => {
  app = await Application.start();
  await app.newKeeperScene();
  await app.dropClip('Walk', 0);
  await app.fill('Repeats', '8');
  plain = await bakeClip(app);
});
afterAll(() => app.stop());

/** Labels of the segments on the first row whose lane has these words. */
const onLane = (words: string): Promise<string[]> =>
  app.page.$$eval(`[data-lane][aria-label^="${words}"] [data-segment]`, (all) =>
    all.map((e) => e.getAttribute('aria-label') ?? ''),
  );

describe('signals with the right hand while walking', () => {
  it('are a hand that is dropped over the walk: a layer of that hand alone, which fades', async () => {
    await app.dropClip('Right hand flat', 60);
    expect(await onLane('Layer Right hand flat')).toEqual(['Right hand flat, frames 60 to 91']);
    await app.fill('Fade in', '5');
    await app.press('button', 'Layer');
    const bones = await app.page.$eval('::-p-aria([name="Bones"][role="textbox"])', (e) =>
      (e as HTMLInputElement).value.split(', '),
    );
    expect(bones).toEqual(
      ['ThumbMetacarpal', 'IndexProximal', 'MiddleProximal', 'RingProximal', 'LittleProximal'].map(
        (finger) => `right${finger}*`,
      ),
    );
  });

  it('a fist follows on the layer, crossfaded, by the keyboard', async () => {
    const fist = await app.lookFor('Right hand fist');
    await fist.focus();
    await app.key('Enter');
    await app.until(async () => (await onLane('Layer Right hand flat')).length === 2, 'it is on the layer');
    const [first, second] = await onLane('Layer Right hand flat');
    expect(first).toBe('Right hand flat, frames 60 to 91');
    const start = Number(/frames (\d+)/.exec(defined(second))?.[1]);
    expect(start).toBeGreaterThan(75);
    expect(start).toBeLessThan(91);
  });

  it('the arm is added as a layer of its own, and the bake has both, for as long as they last', async () => {
    await app.dropClip('Signal stop', 50);
    expect(await onLane('Layer Signal stop')).toEqual(['Signal stop, frames 50 to 141']);
    const clip = await bakeClip(app);
    const off = (joint: string, frame: number): number => angleBetween(joint, clip, frame, plain, frame);
    // The arm is up, the other arm and the legs walk on as before.
    expect(off('rightUpperArm', 90)).toBeGreaterThan(50);
    for (const joint of ['leftUpperArm', 'leftUpperLeg', 'rightLowerLeg', 'spine', 'leftIndexProximal'])
      for (const frame of [60, 75, 90, 110]) expect(off(joint, frame)).toBeLessThan(FLOAT_DEGREES);
    // Outside, all is as it was.
    for (const joint of plain.skeleton.names)
      for (const frame of [0, 30, 49, 142, 200]) expect(off(joint, frame)).toBeLessThan(FLOAT_DEGREES);
    // Nothing jumps: a finger turns by less than a ninth of its way in a frame.
    for (let f = 45; f < 150; f++)
      expect(angleBetween('rightMiddleIntermediate', clip, f, clip, f + 1)).toBeLessThan(20);
  });

  it('a layer is mirrored to the other side, from its menu', async () => {
    await app.press('button', 'Options for the layer Right hand flat');
    await app.press('menuitem', 'Mirror to the other side');
    await app.until(
      async () => (await onLane('Layer Right hand flat mirrored')).length === 2,
      'there is a layer for the left hand',
    );
    const clip = await bakeClip(app);
    // A fist is 60 degrees from the relaxed hand of the walk; on the right the arm's signal lies over it.
    expect(angleBetween('leftMiddleProximal', clip, 95, plain, 95)).toBeGreaterThan(45);
    expect(angleBetween('leftMiddleProximal', clip, 130, plain, 130)).toBeLessThan(FLOAT_DEGREES);
    await app.blur();
    await app.key('z', 'Control');
    await app.until(
      async () => (await onLane('Layer Right hand flat mirrored')).length === 0,
      'it is taken back',
    );
  });

  it('a layer is linked with its other side, which follows it, also in what is taken back', async () => {
    const left = 'Layer Left hand flat';
    const are = (count: number): Promise<void> =>
      app.until(async () => (await onLane(left)).length === count, `${count} segments are on the left`);
    await app.press('button', 'Options for the layer Right hand flat');
    await app.press('menuitem', 'Link left and right');
    await are(2);
    expect((await onLane(left)).every((label) => label.startsWith('Left hand'))).toBe(true);
    const clip = await bakeClip(app);
    expect(angleBetween('leftMiddleProximal', clip, 95, plain, 95)).toBeGreaterThan(45);
    const segments = `[data-lane][aria-label^="Layer Right hand flat"] [data-segment]`;
    await defined((await app.page.$$(segments)).at(-1)).focus();
    await app.key('Delete');
    await are(1);
    await app.blur();
    for (let i = 0; i < 2; i++) await app.key('z', 'Control');
    await are(0);
  });

  it('delete both, and the hand is as before', async () => {
    for (const layer of ['Signal stop', 'Right hand flat']) {
      await app.press('button', `Options for the layer ${layer}`);
      await app.press('menuitem', 'Remove layer');
      await app.until(async () => (await onLane(`Layer ${layer}`)).length === 0, `${layer} is gone`);
    }
    const clip = await bakeClip(app);
    expect(clip.rotations).toEqual(plain.rotations);
    expect(clip.translations).toEqual(plain.translations);
    expect(app.faults).toEqual([]);
  });
});

describe('two clips on a layer', () => {
  it('have their crossfade made shorter by its handle on the layer', async () => {
    await app.newKeeperScene();
    await app.dropClip('Walk', 0);
    await app.fill('Repeats', '8');
    await app.dropClip('Right hand flat', 60);
    await (await app.lookFor('Right hand fist')).focus();
    await app.key('Enter');
    await app.until(async () => (await onLane('Layer Right hand flat')).length === 2, 'both are there');
    const spans = async (): Promise<number[]> =>
      (await onLane('Layer Right hand flat')).flatMap(
        (s) => /(\d+) to (\d+)/.exec(s)?.slice(1).map(Number) ?? [],
      );
    const [, end = 0, start = 0] = await spans();
    await app.page.focus('[data-segment][aria-label^="Right hand fist"]');
    const seam = await app.find('slider', 'Crossfade of Right hand flat and Right hand fist');
    await seam.focus();
    await app.key('ArrowLeft');
    await app.key('ArrowLeft');
    await app.until(async () => (await spans())[2] === start + 2, 'the fist begins two frames later');
    expect((await spans())[1]).toBe(end);
    // Both play all that their clips have: the seam cannot be moved without changing them.
    await (await app.find('slider', 'Seam of Right hand flat and Right hand fist')).focus();
    await app.key('ArrowLeft');
    expect((await spans()).slice(1, 3)).toEqual([end, start + 2]);
    for (let i = 0; i < 2; i++) await app.press('button', 'Undo overlap before Right hand fist');
    await app.until(async () => (await spans())[2] === start, 'it is as it was');
  });
});
