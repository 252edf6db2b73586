import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { defined } from '@warper/core';
import { assembleCues, parseCueSheet, writeSceneFile } from '@warper/formats';
import { writeWav } from '@warper/formats/sound';
import { Application } from './application';
import { killTab } from './killTab';
import { bakeClip, jointPath } from './baked';
import { filmed } from './films';
import type { Heard } from './listening';
import { listen } from './listening';

let app: Application;
const folder = mkdtempSync(join(tmpdir(), 'sounds-'));

beforeAll(async () => {
  app = await Application.start();
  await app.page.evaluateOnNewDocument(listen);
  await app.open('/scene/lamp-round');
  await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
  await app.hasAllClips();
}, 180_000);
afterAll(async () => {
  const { faults } = app;
  await app.stop();
  expect(faults).toEqual([]);
});

const starts = (): Promise<Heard['starts']> =>
  app.page.evaluate(() => (window as unknown as { heard: Heard }).heard.starts);

const labels = (what: 'sound' | 'line' | 'shot'): Promise<string[]> =>
  app.page.$$eval(`[data-${what}]`, (all) => all.map((e) => e.getAttribute('aria-label') ?? ''));

/** Puts a sound of the library at the playhead, by the keyboard. */
async function addSound(file: string): Promise<void> {
  const before = (await labels('sound')).length;
  await app.press('button', 'Sounds');
  const item = defined(await app.page.waitForSelector(`[data-library-sound="${file}"]`));
  await item.focus();
  await app.page.keyboard.press('Enter');
  await app.until(async () => (await labels('sound')).length === before + 1, `${file} is on a lane`);
}

/** Chooses a sound that is on a lane. */
async function take(name: string): Promise<void> {
  const block = defined(await app.page.waitForSelector(`[data-sound][aria-label^="${name},"]`));
  await block.evaluate((e) => e.scrollIntoView({ block: 'center' }));
  await block.focus();
  await app.page.keyboard.press('Enter');
  await app.until(async () => (await app.card()).includes(name), `${name} is in hand`);
}

/** Carries out a command by its name, once the palette has found it. */
async function command(name: string): Promise<void> {
  await app.page.waitForSelector('[cmdk-item]', { hidden: true });
  await app.key('/');
  await app.page.waitForSelector('[cmdk-input]');
  await app.page.keyboard.type(name);
  await app.page.waitForSelector(`[cmdk-item][aria-selected="true"] ::-p-text(${name})`);
  await app.page.keyboard.press('Enter');
}

/** Chooses a segment. */
async function takeSegment(name: string): Promise<void> {
  const segment = defined(await app.page.waitForSelector(`[data-segment][aria-label^="${name}"]`));
  await segment.focus();
  await app.page.keyboard.press('Enter');
  await app.until(async () => (await app.card()).includes(name), `${name} is in hand`);
}

describe('a sound', () => {
  it('is put onto a lane, trimmed, moved, faded and undone, by keys and pointer', async () => {
    await app.seek(60);
    await addSound('hail-boat.wav');
    expect(await labels('sound')).toEqual(['hail-boat, frames 60 to 99']);
    await take('hail-boat');
    await app.page.keyboard.press('ArrowRight');
    await app.until(async () => (await labels('sound'))[0] === 'hail-boat, frames 61 to 100', 'it moved');
    await (await app.find('slider', 'End of hail-boat')).press('ArrowLeft');
    await app.until(async () => (await labels('sound'))[0] === 'hail-boat, frames 61 to 99', 'it is shorter');
    await app.fill('Fade in', '0.3');
    await app.fill('Repeats', '2');
    await app.until(async () => (await labels('sound'))[0] === 'hail-boat, frames 61 to 137', 'it repeats');
    const box = defined(await (await app.page.$('[data-sound]'))!.boundingBox());
    const from = { x: box.x + 30, y: box.y + 20 };
    await app.drag(from, { x: from.x + 50, y: from.y });
    await app.until(async () => !(await labels('sound'))[0]!.includes('frames 61 '), 'the pointer moved it');
    await app.press('button', 'Undo move of hail-boat');
    await app.press('button', 'Undo repeat of hail-boat');
    await app.press('button', 'Undo fade in of hail-boat');
    await app.press('button', 'Undo trim of hail-boat');
    await app.press('button', 'Undo move of hail-boat');
    expect(await labels('sound')).toEqual(['hail-boat, frames 60 to 99']);
    expect(await app.barriers()).toEqual([]);
  });

  it('is heard when the playhead is dragged, from where that is', async () => {
    const before = (await starts()).length;
    await app.seek(75);
    await app.until(async () => (await starts()).length > before, 'a moment of it is heard');
    const [, offset] = defined((await starts()).at(-1));
    expect(offset).toBeCloseTo(15 / 30, 1);
    await app.key('a');
    await app.seek(80);
    const silent = (await starts()).length;
    await app.seek(82);
    expect((await starts()).length).toBe(silent);
    await app.key('a');
  });

  it('leads the picture: frames follow the clock of what is heard, through a loop', async () => {
    await app.seek(50);
    const before = (await starts()).length;
    await app.press('button', 'Play');
    const [fromFrame, ...rest] = await app.page.evaluate(async () => {
      const { contexts } = (window as unknown as { heard: Heard }).heard;
      const frames: [number, number][] = [];
      const text = document.querySelector('[data-testid=frame]')!;
      const begin = performance.now();
      while (performance.now() - begin < 2500) {
        await new Promise(requestAnimationFrame);
        const context = contexts[0];
        if (!context) continue;
        const frame = Number(/\d+/.exec(text.textContent ?? '')![0]);
        frames.push([frame, context.currentTime - (context.outputLatency || 0)]);
      }
      return frames;
    });
    await app.press('button', 'Pause');
    const played = (await starts()).slice(before);
    expect(played).toHaveLength(1);
    // The hail begins at frame 60: when it did, frame 60 was shown, and all others by the same clock.
    const [when] = defined(played[0]);
    const shown = [defined(fromFrame), ...rest].filter(([f]) => f > 52);
    expect(shown.length).toBeGreaterThan(10);
    for (const [frame, clock] of shown) {
      const due = 60 + (clock - when) * 30;
      // One picture may be late where the machine is busy; none is early.
      expect(frame - due).toBeLessThan(1);
      expect(due - frame).toBeLessThan(4);
    }
  });
});

describe('a piece that is cut to sound', () => {
  it('has its shots snap to two hails, and a film whose sound and picture agree', async () => {
    await app.seek(150);
    await addSound('hail-answer.wav');
    await app.key('C', 'Shift');
    await app.until(async () => (await labels('shot')).length === 1, 'there is a shot');
    await app.press('button', 'Top');
    await app.press('button', '+ Camera');
    await app.seek(62);
    await app.key('t');
    await app.until(async () => (await labels('shot')).length === 2, 'there are two shots');
    const start = defined(await (await app.find('slider', 'Start of Shot 2')).boundingBox());
    await app.drag({ x: start.x + 3, y: start.y + 8 }, { x: start.x + 1, y: start.y + 8 });
    const block = defined(await app.page.waitForSelector('[data-shot][aria-label^="Shot 2"]'));
    await block.press('Enter');
    await app.fill('Start', '60');
    await app.seek(150);
    await app.press('button', 'Around');
    await app.press('button', '+ Camera');
    await app.key('t');
    await app.until(async () => (await labels('shot')).length === 3, 'there are three shots');
    expect((await labels('shot')).map((l) => /frames (\d+)/.exec(l)![1])).toEqual(['0', '60', '150']);
    await app.press('button', 'Bake');
    await app.press('button', 'Film');
    await app.choose('Camera', 'The shots');
    const { cuts, onsets } = await filmed(app, 40, 190, '.mp4', 2);
    expect(cuts).toEqual([20, 110]);
    for (const [i, cut] of cuts.entries()) expect(Math.abs(defined(onsets[i]) - cut)).toBeLessThanOrEqual(1);
    await app.page.goBack();
    await app.page.waitForSelector('[data-timeline]', { timeout: 60_000 });
  });

  it('agrees at ten places within a frame, in WebM and in MP4', async () => {
    const rate = 16_000;
    const clicks = Array.from({ length: 10 }, (_, i) => 15 + i * 9);
    const samples = new Float32Array(4 * rate);
    for (const frame of clicks)
      for (let i = 0; i < 1600; i++)
        samples[Math.round((frame / 30) * rate) + i] = 0.8 * Math.sin(i / 3) * Math.exp(-i / 400);
    const wav = writeWav([samples], rate);
    const made = (name: string): Uint8Array =>
      name === 'clicks.wav' ? wav : new Uint8Array(readFileSync(`demo/made/${name}`));
    const sheet = parseCueSheet({
      format: 'warper-cues',
      version: 1,
      rate: 30,
      name: 'Ten cuts',
      characters: [{ name: 'Keeper', body: 'keeper.glb', cues: [{ clip: 'keeper-idle.glb', repeat: 3 }] }],
      cameras: [
        { name: 'Wide', place: [0, 1.4, 6], aim: [0, 1, 0] },
        { name: 'Near', place: [3, 4, 0.5], aim: [0, 1, 0], lens: 60 },
      ],
      shots: [0, ...clicks].map((frame, i) => ({ camera: i % 2 === 0 ? 'Wide' : 'Near', start: frame })),
      sounds: [{ file: 'clicks.wav', start: 0 }],
    });
    const { scene, library } = await assembleCues(sheet, (name) => Promise.resolve(made(name)));
    const path = join(folder, 'ten.warper');
    writeFileSync(path, writeSceneFile(scene, library));
    await app.open('/');
    await (await app.page.waitForSelector('header input[type=file]'))!.uploadFile(path);
    await app.page.waitForSelector('[data-shot]', { timeout: 60_000 });
    await app.press('button', 'Bake');
    await app.press('button', 'Film');
    await app.choose('Camera', 'The shots');
    for (const format of ['.webm', '.mp4'] as const) {
      const { cuts, onsets, seconds } = await filmed(app, 0, 110, format, 10);
      expect(cuts).toEqual(clicks);
      expect(onsets).toHaveLength(10);
      for (const [i, cut] of cuts.entries())
        expect(Math.abs(defined(onsets[i]) - cut)).toBeLessThanOrEqual(1);
      expect(Math.abs(seconds - 110 / 30)).toBeLessThan(1 / 30);
    }
  }, 400_000);
});

describe('work that is sung to', () => {
  it('has the rope hauled in time with the shanty, its strokes on the beats', async () => {
    await app.newKeeperScene();
    await app.dropClip('Rope haul', 20);
    await takeSegment('Rope haul');
    await app.fill('Repeats', '6');
    await app.seek(12);
    await addSound('shanty.wav');
    await take('shanty');
    await app.press('button', 'Detect the beat');
    // As many as are heard: every other one is a stamp.
    await app.press('button', 'Half');
    await app.until(async () => (await app.card()).includes('Half'), 'it has beats');
    const perMinute = await (
      await app.find('textbox', 'Beats per minute')
    ).evaluate((e) => Number((e as HTMLInputElement).value));
    expect(Math.abs(perMinute - 72)).toBeLessThan(0.8);
    await takeSegment('Rope haul');
    await app.press('button', 'Fit to the beat');
    await app.until(async () => /Now 0\.\d f off/.test(await app.card()), 'it is on the beat');
    const startOf = (label: string): number => Number(/frames (-?\d+)/.exec(label)![1]);
    const stamps = Array.from({ length: 17 }, (_, i) => i * 25);
    const apart = startOf((await app.segments())[0]!) - startOf((await labels('sound'))[0]!);
    const clip = await bakeClip(app);
    // A hand is highest where its stroke begins.
    for (const hand of ['LeftHand', 'RightHand']) {
      const heights = jointPath(clip, jointOf(clip.skeleton.names, hand)).map((p) => p[1]!);
      const strokes = heights.flatMap((h, f) =>
        f > 2 &&
        f < heights.length - 2 &&
        h > 1.5 &&
        h >= Math.max(...heights.slice(Math.max(0, f - 8), f + 9))
          ? [f]
          : [],
      );
      expect(strokes.length).toBeGreaterThanOrEqual(5);
      // The shanty stamps every 25 frames from its start on.
      for (const stroke of strokes)
        expect(Math.min(...stamps.map((s) => Math.abs(s - apart - stroke)))).toBeLessThanOrEqual(1);
    }
  });
});

const jointOf = (names: readonly string[], like: string): string =>
  defined(
    names.find((n) =>
      n
        .replace(/[^a-z]/gi, '')
        .toLowerCase()
        .endsWith(like.toLowerCase()),
    ),
  );

describe('lines of dialogue', () => {
  it('are added at the playhead, shown in the view, saved as WebVTT, and read again', async () => {
    await app.seek(30);
    await app.key('l');
    await app.until(async () => (await labels('line')).length === 1, 'there is a line');
    await app.fill('Text', 'Haul away!');
    await app.fill('Speaker', 'Keeper');
    await app.until(
      async () => (await labels('line'))[0] === 'Keeper: Haul away!, frames 30 to 90',
      'it says what was typed',
    );
    await app.seek(40);
    const caption = (): Promise<string> =>
      app.page.$eval('[data-testid=caption]', (e) =>
        (e as HTMLElement).hidden ? '' : (e.textContent ?? ''),
      );
    await app.until(async () => (await caption()) === 'Keeper: Haul away!', 'it is shown');
    await app.seek(100);
    await app.until(async () => (await caption()) === '', 'it is over');
    await command('Save lines as WebVTT');
    const text = new TextDecoder().decode(await app.downloaded('.vtt'));
    expect(text).toBe('WEBVTT\n\n00:00:01.000 --> 00:00:03.000\n<v Keeper>Haul away!\n');
    const path = join(folder, 'other.vtt');
    writeFileSync(
      path,
      'WEBVTT\n\n00:02.000 --> 00:04.000\n<v Boat>Easy now\n\n00:05.000 --> 00:06.000\nStop\n',
    );
    const chooser = app.page.waitForFileChooser();
    await command('Read lines from a captions file');
    await (await chooser).accept([path]);
    await app.until(async () => (await labels('line')).length === 2, 'two lines are read');
    expect(await labels('line')).toEqual(['Boat: Easy now, frames 60 to 120', 'Stop, frames 150 to 180']);
    await app.press('button', 'Undo 2 lines from a file');
    await app.until(async () => (await labels('line')).length === 1, 'the old one is back');
  });

  it('and sounds are there after the tab is killed', async () => {
    const before = [await labels('sound'), await labels('line')];
    expect(before.map((l) => l.length)).toEqual([1, 1]);
    const url = app.page.url();
    const page = await app.browser.newPage();
    await page.setViewport({ width: 1280, height: 800 });
    await app.page.goto('about:blank');
    await page.goto(url);
    await page.waitForSelector('[data-sound]', { timeout: 60_000 });
    await page.$eval('[data-line]', (e) => (e as HTMLElement).focus());
    await page.keyboard.press('ArrowRight');
    await page.waitForFunction(() => document.body.innerText.includes('saved'));
    await new Promise((resolve) => setTimeout(resolve, 300));
    await killTab(page);
    await app.page.goto(url);
    await app.page.waitForSelector('[data-sound]', { timeout: 60_000 });
    expect(await labels('sound')).toEqual(before[0]);
    expect(await labels('line')).toEqual(['Keeper: Haul away!, frames 31 to 91']);
  });
});
