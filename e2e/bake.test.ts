import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { defined } from '@warper/core';
import { otioCues, readMotionFile, readSceneFile } from '@warper/formats';
import { unzipSync } from 'fflate';
import { ALL_FORMATS, BufferSource, Input } from 'mediabunny';
import validator from 'gltf-validator';
import { Application } from './application';

let app: Application;
let frames: number;

beforeAll(async () => {
  app = await Application.start();
  await app.open('/scene/lamp-round');
  await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
  await app.press('button', 'Bake');
  await app.find('button', 'Bake GLB');
}, 180_000);
afterAll(() => app.stop());

/** The files that are said to be written, with what is said of them. */
const planned = (): Promise<string[]> =>
  app.page.$$eval('[aria-label="Files to be written"] > ul:first-of-type > li', (all) =>
    all.map((e) => (e as HTMLElement).innerText.replaceAll('\n', ' | ')),
  );

const namesOf = async (): Promise<string[]> => (await planned()).map((text) => defined(text.split(' | ')[0]));

/** Bakes what is set, and gives what was downloaded. */
async function baked(button: string, extension: string): Promise<Uint8Array> {
  await app.press('button', button);
  return app.downloaded(extension);
}

describe('the bake page', () => {
  it('writes everybody into one valid file of one length', async () => {
    const [text] = await planned();
    expect(text).toMatch(/^The-Lamp-Round\.glb \| .*Keeper, Visitor, Dog · frames 0 to (\d+)/);
    frames = Number(/frames 0 to (\d+)/.exec(defined(text))?.[1]) + 1;
    const bytes = await baked('Bake GLB', '.glb');
    const { issues } = await validator.validateBytes(bytes);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const { bodies, clips } = await readMotionFile(bytes, 'all.glb');
    expect(bodies.map((b) => b.skinned)).toEqual([true, true, true]);
    for (const clip of clips) expect(clip.frames).toBe(frames);
    // What was estimated, to within a fifth.
    const megabytes = Number(/([\d.]+) MB/.exec(defined(text))?.[1]);
    expect(Math.abs(bytes.length / 1e6 / megabytes - 1)).toBeLessThan(0.2);
  });

  it('writes a file for each where the format holds one, all in one archive that lines up', async () => {
    await app.choose('Format', 'BVH');
    expect(await namesOf()).toEqual(['Keeper', 'Visitor', 'Dog'].map((n) => `The-Lamp-Round-${n}.bvh`));
    const files = unzipSync(await baked('Bake 3 files', '.zip'));
    expect(Object.keys(files)).toEqual(await namesOf());
    for (const [name, bytes] of Object.entries(files))
      expect((await readMotionFile(bytes, name)).clips[0]?.frames).toBe(frames);
  });

  it('says what is missing where nobody is chosen', async () => {
    await app.press('button', 'None');
    await app.page.waitForSelector('::-p-text(Nobody is chosen.)');
    expect(await app.page.$eval('[data-bake]', (b) => (b as HTMLButtonElement).disabled)).toBe(true);
    await (await app.page.$$('[aria-label="Who is baked"] [role=checkbox]'))[0]!.click();
    expect(await namesOf()).toEqual(['The-Lamp-Round-Keeper.bvh']);
  });

  it('writes a table, and glTF as text, of the frames that are set', async () => {
    await app.fill('Start frame', '100');
    await app.fill('End frame', '130');
    // Taking numbers over starts no bake.
    expect(app.hasDownloaded('.bvh')).toBe(false);
    await app.choose('Format', 'CSV');
    const table = new TextDecoder()
      .decode(await baked('Bake CSV', '.csv'))
      .trimEnd()
      .split('\r\n');
    expect([table.length, defined(table[30]).split(',')[0]]).toEqual([31, '29']);
    await app.choose('Format', 'glTF');
    const text = await baked('Bake GLTF', '.gltf');
    const { clips, bodies } = await readMotionFile(text, 'part.gltf');
    expect([clips[0]?.frames, bodies[0]?.skinned]).toEqual([30, true]);
  });

  it('writes VRM animation, USD and USDZ of the same', async () => {
    await app.choose('Format', 'VRM animation');
    const { clips } = await readMotionFile(await baked('Bake VRMA', '.vrma'), 'part.vrma');
    expect([clips[0]?.frames, clips[0]?.skeleton.names.includes('leftUpperArm')]).toEqual([30, true]);
    await app.choose('Format', 'USD, as text');
    await app.choose('Units', 'Centimetres');
    await app.choose('Up axis', '+Z');
    const text = new TextDecoder().decode(await baked('Bake USDA', '.usda'));
    expect([
      text.startsWith('#usda 1.0'),
      /endTimeCode = 29\n/.test(text),
      text.includes('def Mesh'),
    ]).toEqual([true, true, true]);
    expect(text).toMatch(/metersPerUnit = 0\.01\n\s*upAxis = "Z"/);
    // Read again it is in metres with +Y up: the hips are where a walker's are.
    const again = defined((await readMotionFile(new TextEncoder().encode(text), 'part.usda')).clips[0]);
    expect([again.frames, again.translations[1]! > 0.7, again.translations[1]! < 1.1]).toEqual([
      30,
      true,
      true,
    ]);
    await app.choose('Units', 'Metres');
    await app.choose('Up axis', '+Y');
    await app.choose('Format', 'USDZ');
    const files = unzipSync(await baked('Bake USDZ', '.usdz'));
    expect(Object.keys(files)).toEqual(['The-Lamp-Round-Keeper.usda']);
  });

  it('reports what was measured of a bake, as a page', async () => {
    await app.press('button', 'Continuity report');
    const html = new TextDecoder().decode(await app.downloaded('.html'));
    expect(html).toMatch(/<h1>Continuity of The Lamp Round<\/h1>.*The-Lamp-Round-Keeper\.usdz/s);
    await app.press('button', 'Timeline (OTIO)');
    const sheet = otioCues(JSON.parse(new TextDecoder().decode(await app.downloaded('.otio'))));
    expect(sheet.characters.map((c) => c.name)).toEqual(['Keeper', 'Visitor', 'Dog']);
    await app.press('button', 'Scene file');
    const kept = await readSceneFile(await app.downloaded('.warper'), 'kept.warper');
    expect([kept.scene.name, kept.scene.characterOrder.length]).toEqual(['The Lamp Round', 3]);
  });

  it('keeps settings by a name over a reload, and makes keys fewer', async () => {
    await app.choose('Format', 'GLB');
    await app.choose('Keys', 'Reduced');
    await app.press('button', 'Save as preset');
    await app.page.type('::-p-aria(Name of the preset)', 'For the web');
    await app.page.keyboard.press('Enter');
    await app.choose('Preset', 'Usual settings');
    await app.page.reload();
    await app.find('button', 'Bake GLB');
    await app.choose('Preset', 'For the web');
    const bytes = await baked('Bake GLB', '.glb');
    await app.page.waitForSelector('::-p-text(% of the keys, within)');
    const { issues } = await validator.validateBytes(bytes);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    expect((await readMotionFile(bytes, 'few.glb')).clips[0]?.frames).toBe(frames);
    await app.press('button', 'Remove the preset For the web');
    await app.page.waitForSelector('::-p-text(Changed)');
  });

  it('puts what was baked into the library', async () => {
    await app.choose('Preset', 'Usual settings');
    await app.press('button', 'None');
    await (await app.page.$$('[aria-label="Who is baked"] [role=checkbox]'))[2]!.click();
    await baked('Bake GLB', '.glb');
    await app.press('button', 'Add to the library');
    await app.find('button', 'In the library');
    await app.open('/library');
    await app.page.waitForSelector('input[type=search]', { timeout: 60_000 });
    await app.page.type('input[type=search]', 'The-Lamp-Round-Dog');
    await app.page.waitForSelector('[data-clip-card="Dog"]');
    expect(app.faults).toEqual([]);
  });

  it('takes the segments that are selected, each as a file or as an animation', async () => {
    await app.open('/scene/lamp-round');
    await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
    await app.page.click('[data-segment][aria-label^="Walk ×"]');
    await app.page.keyboard.down('Shift');
    await app.page.click('[data-segment][aria-label^="Turn round"]');
    await app.page.keyboard.up('Shift');
    await app.press('button', 'Bake');
    await app.choose('Part of the scene', 'Selected segments');
    expect(await namesOf()).toEqual([
      'The-Lamp-Round-Keeper-Walk.glb',
      'The-Lamp-Round-Keeper-Turn-round.glb',
    ]);
    await app.choose('Each part is', 'An animation');
    const { clips } = await readMotionFile(await baked('Bake GLB', '.glb'), 'takes.glb');
    expect(clips.map((c) => c.name)).toEqual(['Walk', 'Turn round']);
  });
});

describe('a film', () => {
  /** How far pictures of the film on the page are from those that were saved, by their numbers: the mean of all colours, 0 to 255. */
  const differences = (pictures: Readonly<Record<string, string>>): Promise<Record<string, number>> =>
    app.page.evaluate(async (saved) => {
      const video = document.querySelector('video')!;
      const [width, height] = [video.videoWidth, video.videoHeight];
      const pixels = (source: CanvasImageSource): Uint8ClampedArray => {
        const canvas = new OffscreenCanvas(width, height);
        const ctx = canvas.getContext('2d')!;
        ctx.drawImage(source, 0, 0);
        return ctx.getImageData(0, 0, width, height).data;
      };
      const result: Record<string, number> = {};
      for (const [number, data] of Object.entries(saved)) {
        const sought = new Promise((resolve) => video.addEventListener('seeked', resolve, { once: true }));
        video.currentTime = (Number(number) + 0.5) / 30;
        await sought;
        const bytes = Uint8Array.from(atob(data), (c) => c.charCodeAt(0));
        const [own, other] = [pixels(video), pixels(await createImageBitmap(new Blob([bytes])))];
        result[number] = own.reduce((sum, v, i) => sum + Math.abs(v - other[i]!), 0) / own.length;
      }
      return result;
    }, pictures);

  it('has a picture for each frame, the same that are saved one by one', async () => {
    await app.press('button', 'Film');
    await app.choose('Camera', 'Follows Keeper');
    await app.choose('Look from', 'Side');
    for (const [field, value] of [
      ['Width', '320'],
      ['Height', '180'],
      ['Start frame', '150'],
      ['End frame', '162'],
    ] as const)
      await app.fill(field, value);
    await app.choose('Format', 'Pictures');
    await app.press('button', 'Make pictures');
    const pictures = unzipSync(await app.downloaded('.zip'));
    expect(Object.keys(pictures)).toHaveLength(12);
    const saved = (i: number): string =>
      Buffer.from(defined(pictures[`frame-${String(i).padStart(5, '0')}.png`])).toString('base64');
    expect(saved(0)).not.toBe(saved(11));
    await app.choose('Format', 'MP4');
    await app.press('button', 'Make film');
    const film = await app.downloaded('.mp4');
    const input = new Input({ formats: ALL_FORMATS, source: new BufferSource(film) });
    const track = defined((await input.getPrimaryVideoTrack()) ?? undefined);
    expect([track.displayWidth, track.displayHeight]).toEqual([320, 180]);
    expect(await track.computePacketStats()).toMatchObject({ packetCount: 12, averagePacketRate: 30 });
    await app.page.waitForSelector('video');
    // Each picture of the film is nearest to the one that was saved of its moment.
    const moments = [0, 6, 11];
    for (const moment of moments) {
      const found: number[] = [];
      for (const other of moments)
        found.push(defined((await differences({ [moment]: saved(other) }))[moment]));
      expect(found.indexOf(Math.min(...found))).toBe(moments.indexOf(moment));
      expect(Math.min(...found)).toBeLessThan(8);
    }
    expect(app.faults).toEqual([]);
  });

  it('as a sheet holds the figures cut out, each in its rectangle with a margin, feet on one line', async () => {
    await app.choose('Format', 'Sheet of poses');
    await app.fill('Every', '3');
    await app.press('button', 'Make sheet');
    const files = unzipSync(await app.downloaded('.zip'));
    expect(Object.keys(files)).toEqual(['The-Lamp-Round.png', 'The-Lamp-Round.json']);
    interface Rectangles {
      readonly width: number;
      readonly height: number;
      readonly anchor: { readonly x: number; readonly y: number };
      readonly frames: Readonly<
        Record<string, { frame: number; x: number; y: number; w: number; h: number }>
      >;
    }
    const sheet = JSON.parse(new TextDecoder().decode(files['The-Lamp-Round.json'])) as Rectangles;
    const cells = Object.values(sheet.frames);
    expect(cells.map((c) => [c.frame, c.x, c.y, c.w, c.h])).toEqual(
      [0, 1, 2, 3].map((i) => [150 + i * 3, i * 128, 0, 128, 160]),
    );
    // Where the figure is in each rectangle: pixels that are not clear, without the numbers at the top left.
    const data = Buffer.from(defined(files['The-Lamp-Round.png'])).toString('base64');
    const boxes = await app.page.evaluate(
      async (png, all) => {
        const bitmap = await createImageBitmap(
          new Blob([Uint8Array.from(atob(png), (c) => c.charCodeAt(0))]),
        );
        const ctx = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!;
        ctx.drawImage(bitmap, 0, 0);
        return all.map(({ x, y, w, h }) => {
          const { data: pixels } = ctx.getImageData(x, y, w, h);
          const box = { left: w, right: 0, top: h, bottom: 0 };
          for (let i = 0; i < w * h; i++) {
            const [px, py] = [i % w, Math.floor(i / w)];
            if (pixels[i * 4 + 3]! < 40 || (px < 40 && py < 20)) continue;
            box.left = Math.min(box.left, px);
            box.right = Math.max(box.right, px);
            box.top = Math.min(box.top, py);
            box.bottom = Math.max(box.bottom, py);
          }
          return box;
        });
      },
      data,
      cells,
    );
    for (const { left, right, top, bottom } of boxes) {
      expect(Math.min(left, top, 127 - right, 159 - bottom)).toBeGreaterThanOrEqual(2);
      expect(bottom - top).toBeGreaterThan(100);
      // The lower of both feet stands on the floor line.
      expect(Math.abs(bottom - sheet.anchor.y)).toBeLessThan(6);
    }
    await app.choose('Format', 'MP4');
  });

  it('can be stopped, and leaves nothing', async () => {
    await app.fill('End frame', '600');
    await app.press('button', 'Make film');
    await app.press('button', 'Cancel');
    await app.page.waitForSelector('[role=alert] ::-p-text(The film was cancelled.)');
    expect(app.hasDownloaded('.mp4')).toBe(false);
  });

  const small = async (values: Readonly<Record<string, string>>): Promise<void> => {
    for (const [field, value] of Object.entries({ Width: '160', Height: '90', ...values }))
      await app.fill(field, value);
  };

  it('as a GIF has a picture for each frame, and takes as long as it plays', async () => {
    await app.choose('Format', 'GIF');
    await small({ 'End frame': '162' });
    for (const overlay of ['Footprints', 'Seams', 'Names']) await app.press('checkbox', overlay);
    await app.press('button', 'Make GIF');
    const gif = Buffer.from(await app.downloaded('.gif')).toString('base64');
    const read = await app.page.evaluate(async (data) => {
      const bytes = Uint8Array.from(atob(data), (c) => c.charCodeAt(0));
      const decoder = new ImageDecoder({ data: bytes, type: 'image/gif' });
      await decoder.completed;
      await decoder.tracks.ready;
      const durations: number[] = [];
      for (let i = 0; i < decoder.tracks.selectedTrack!.frameCount; i++)
        durations.push((await decoder.decode({ frameIndex: i })).image.duration!);
      return { durations, repeats: String(decoder.tracks.selectedTrack!.repetitionCount) };
    }, gif);
    expect([read.durations.length, read.repeats]).toEqual([12, 'Infinity']);
    // Microseconds; each of hundredths of a second, all together as long as twelve frames at thirty a second.
    expect(read.durations.reduce((sum, d) => sum + d)).toBe(400_000);
    await app.page.waitForSelector('img[alt^="The film"]');
  });

  it('from eight directions is a sheet with a row for each', async () => {
    await app.choose('Format', 'Sheet of poses');
    await app.choose('Look from', 'Eight directions');
    await app.fill('Every', '6');
    await app.press('button', 'Make sheet');
    const files = unzipSync(await app.downloaded('.zip'));
    const { frames: cells } = JSON.parse(new TextDecoder().decode(files['The-Lamp-Round.json'])) as {
      frames: Record<string, { direction: number; y: number }>;
    };
    expect(Object.values(cells).map((c) => [c.direction, c.y])).toEqual(
      [0, 45, 90, 135, 180, 225, 270, 315].flatMap((d, row) => [
        [d, row * 160],
        [d, row * 160],
      ]),
    );
    await app.choose('Look from', 'Side');
  });

  it('as pictures that were stopped goes on where it was, even in a page that was opened again', async () => {
    const set = async (): Promise<void> => {
      await app.choose('Format', 'Pictures');
      await small({ 'Start frame': '150', 'End frame': '210' });
    };
    await set();
    await app.choose('Look from', 'Three-quarter');
    await app.choose('Camera', 'Shows everything');
    for (const overlay of ['Footprints', 'Seams', 'Names']) await app.press('checkbox', overlay);
    await app.press('button', 'Make pictures');
    const whole = unzipSync(await app.downloaded('.zip'));
    expect(Object.keys(whole)).toHaveLength(60);
    // All of them are done: there is nothing to go on with.
    await app.press('button', 'Make pictures');
    await app.page.waitForFunction(() =>
      [...document.querySelectorAll('[role=progressbar]')].some((e) => Number(e.ariaValueNow) > 20),
    );
    await app.press('button', 'Cancel');
    await app.page.waitForSelector('::-p-text(Continue with picture)');
    await app.page.reload();
    await app.press('button', 'Film');
    // How films are set was kept; who and which part is the page's own.
    const who = await app.page.$$('[aria-label^="Who is"] [role=checkbox]');
    for (const other of who.slice(1)) await other.click();
    await small({ 'Start frame': '150', 'End frame': '210' });
    const button = await app.page.waitForSelector('button::-p-text(Continue with picture)');
    const from = Number(/\d+/.exec(await button!.evaluate((e) => e.textContent ?? ''))![0]);
    expect(from).toBeGreaterThan(5);
    expect(from).toBeLessThan(60);
    await button!.click();
    const continued = unzipSync(await app.downloaded('.zip'));
    expect(Object.keys(continued)).toEqual(Object.keys(whole));
    for (const [name, picture] of Object.entries(whole))
      expect(Buffer.compare(defined(continued[name]), picture)).toBe(0);
    await app.find('button', 'Make pictures');
  });
});
