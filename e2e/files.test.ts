import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { writeWav } from '@warper/formats/sound';
import { Application, made } from './application';

let app: Application;
const folder = mkdtempSync(join(tmpdir(), 'warper-files-'));
const file = (name: string, content: Uint8Array | string): string => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};
beforeAll(async () => {
  app = await Application.start();
  await app.open('/scene/lamp-round');
  await app.page.waitForSelector('[data-clip]', { timeout: 60_000 });
  await app.page.waitForSelector('[data-segment]', { timeout: 60_000 });
  await app.hasAllClips();
});
afterAll(() => app.stop());

/** Gives files to the import and reads what was found; keeps it where there is anything to keep. */
async function take(...paths: string[]): Promise<string> {
  const input = await app.page.$('aside input[type=file]');
  await input!.uploadFile(...paths);
  await app.page.waitForSelector('[role=dialog] ::-p-text(What was found)', { timeout: 120_000 });
  const text = await app.page.$eval('[role=dialog]', (e) => e.textContent ?? '');
  await (await app.page.waitForSelector('[role=dialog] > div:last-child button:last-child'))!.click();
  await app.page.waitForSelector('[role=dialog]', { hidden: true });
  return text;
}
/** Names that are proposed in the sheet. */
const proposed = (): Promise<string[]> =>
  app.page.$$eval('[role=dialog] input[aria-label^="Name of"]', (all) => all.map((e) => e.value));
const stored = (): Promise<number[]> =>
  app.page.evaluate(
    () =>
      new Promise<number[]>((resolve) => {
        const open = indexedDB.open('warper');
        open.onsuccess = () => {
          const stores = ['files', 'clips', 'bodies'] as const;
          const work = open.result.transaction(stores).objectStore.bind(open.result.transaction(stores));
          void Promise.all(
            stores.map(
              (s) =>
                new Promise<number>(
                  (r) => (work(s).count().onsuccess = (e) => r((e.target as IDBRequest<number>).result)),
                ),
            ),
          ).then((counts) => {
            open.result.close();
            resolve(counts);
          });
        };
      }),
  );

const walk = new Uint8Array(readFileSync(made('keeper-walk.glb')));
const bvh = readFileSync(made('Set down.bvh'), 'utf8');
/** The walk with the number of an accessor that it does not have. */
const outOfRange = (): Uint8Array => {
  const at = Buffer.from(walk)
    .toString('latin1')
    .search(/"output":\d\d\b/);
  const changed = Buffer.from(walk);
  changed.write('99', at + '"output":'.length, 'latin1');
  return new Uint8Array(changed);
};

const fixture = (name: string): string => new URL(`../formats/fixtures/${name}`, import.meta.url).pathname;

describe('files that are read by way of GLB', () => {
  it('come in through the same sheet: USD and Collada, of any units and axis', async () => {
    const before = await stored();
    const text = await take(fixture('lamp.usda'), fixture('bar.dae'));
    expect(text).toMatch(/lamp\.usda USD.*2 joints/);
    expect(text).toMatch(/bar\.dae COLLADAfoot: 3 joints, 2\.00 m high, with skin/);
    const after = await stored();
    expect(after.map((count, i) => count - before[i]!)).toEqual([2, 2, 2]);
  });
});

describe('files that are not as they should be', () => {
  it.each<[string, () => string, RegExp]>([
    [
      'a GLB cut in half',
      () => file('half.glb', walk.subarray(0, walk.length >> 1)),
      /should have \d+ bytes and has \d+/,
    ],
    [
      'a BVH with rows missing',
      () => file('short.bvh', bvh.slice(0, Math.floor(bvh.length * 0.8)).replace(/\n[^\n]*$/, '\n')),
      /line \d+: The file declares 151 rows and has \d+ whole ones: \d+ are missing/,
    ],
    [
      'a GLB with an index out of range',
      () => file('range.glb', outOfRange()),
      /Index 99 is out of range: there are \d+ accessors/,
    ],
    [
      'an image renamed to .glb',
      () => file('image.glb', Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3)),
      /This is a picture, whatever its name says/,
    ],
    ['a text', () => file('notes.bvh', 'walk, then turn'), /a text that says nothing of a motion/],
    [
      'something in a format of its own',
      () => file('scene.xyz', Uint8Array.of(1, 2, 3, 4)),
      /in no open format for motion/,
    ],
    ['a broken scene file', () => file('broken.warper', 'PK\u0003\u0004 nothing'), /no scene file/],
  ])('%s: a clear error, nothing stored', async (_, path, message) => {
    const before = await stored();
    const clips = await app.clips();
    expect(await take(path())).toMatch(message);
    expect(await stored()).toEqual(before);
    expect(await app.clips()).toEqual(clips);
  });

  it('a glTF in several files is taken with what belongs to it, and refused without', async () => {
    const fixture = new URL('../formats/fixtures/khronos-simple-skin.gltf', import.meta.url);
    const json = JSON.parse(readFileSync(fixture, 'utf8')) as { buffers: { uri: string }[] };
    const bins = json.buffers.map((b, i) => {
      const path = file(
        `skin${i}.bin`,
        new Uint8Array(Buffer.from(b.uri.slice(b.uri.indexOf(',') + 1), 'base64')),
      );
      b.uri = `skin${i}.bin`;
      return path;
    });
    const gltf = file('skin.gltf', JSON.stringify(json));
    expect(await take(gltf)).toMatch(/skin0\.bin that belongs to it was not given/);
    expect(await take(gltf, ...bins)).toMatch(/2 of it|1 clip to keep|1 of 1 clip to keep/);
  });

  it('a bad one does not keep a good one out, and the application goes on', async () => {
    const good = file('Sit.bvh', bvh.replaceAll('hips', 'Hips'));
    const text = await take(file('bad.glb', 'nothing'), good);
    expect(text).toMatch(/a text that says nothing of a motion/);
    expect(text).toMatch(/1 of 1 clip to keep/);
    await app.until(async () => (await app.clips()).includes('Sit'), 'the good clip is in the library');
    await app.lookFor('Sit');
    await app.page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await app.page.keyboard.press('Space');
    await app.until(
      async () => /Frame [1-9]/.test(await app.page.$eval('[data-testid=frame]', (e) => e.textContent ?? '')),
      'it plays',
    );
    await app.page.keyboard.press('Space');
    expect(app.faults).toEqual([]);
  });
});

describe('what is found is shown before anything is kept', () => {
  it('a mixed drop with one bad file, a picture, a sound, a doubled name and what is there already', async () => {
    const before = await stored();
    const input = await app.page.$('aside input[type=file]');
    const raised = bvh.replace(/OFFSET [-\d.]+ [-\d.]+ [-\d.]+/, (first) => first);
    await input!.uploadFile(
      file('Sit.bvh', raised.replaceAll('hips', 'pelvis')),
      file('broken.bvh', bvh.slice(0, 400)),
      file('wall.png', Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2)),
      file('sea.wav', writeWav([new Float32Array(24_000)], 16_000)),
      file('waves.ogg', 'OggS and waves'),
      made('keeper-walk.glb'),
    );
    await app.page.waitForSelector('[role=dialog] ::-p-text(What was found)', { timeout: 120_000 });
    const text = await app.page.$eval('[role=dialog]', (e) => e.textContent ?? '');
    expect(text).toMatch(/Another clip is called Sit; this one would be Sit 2/);
    expect(text).toMatch(/broken\.bvh■/);
    expect(text).toMatch(/A picture, kept for later/);
    expect(text).toMatch(/A sound of 1\.5 s, for sound lanes/);
    expect(text).toMatch(/waves\.ogg■/);
    expect(text).toMatch(/keeper-walk\.glb● The same content is in the library already/);
    expect(await proposed()).toEqual(['Sit 2']);
    expect(await app.barriers()).toEqual([]);
    expect(await stored()).toEqual(before);
    const name = await app.page.$('[role=dialog] input[aria-label="Name of Sit"]');
    await name!.click({ count: 3 });
    await name!.type('Sit on the step');
    await app.press('button', 'Keep 1 clip');
    await app.until(
      async () => (await app.clips()).includes('Sit on the step'),
      'it is kept under its new name',
    );
    expect((await stored())[1]).toBe(before[1]! + 1);
  });

  it('keeps nothing where nothing is wanted', async () => {
    const before = await stored();
    const input = await app.page.$('aside input[type=file]');
    await input!.uploadFile(file('Other.bvh', bvh.replace('Frame Time: 0.0333', 'Frame Time: 0.0400')));
    await app.page.waitForSelector('[role=dialog] ::-p-text(What was found)', { timeout: 120_000 });
    await app.press('button', 'Keep nothing');
    await app.page.waitForSelector('[role=dialog]', { hidden: true });
    expect(await stored()).toEqual(before);
    expect(app.faults).toEqual([]);
  });
});

describe('a long bake', () => {
  it('shows its progress and can be cancelled; then a short one works', async () => {
    await app.page.click('[data-segment][aria-label^="Walk ×3"]');
    await app.fill('Repeats', '4000');
    await app.until(async () => (await app.segments()).some((s) => s.includes('×4000')), 'the walk is long');
    await app.press('button', 'Bake');
    await app.press('button', 'Bake GLB');
    await app.press('button', 'Cancel');
    await app.page.waitForSelector('[role=alert] ::-p-text(The bake was cancelled)', { timeout: 60_000 });
    await app.fill('End frame', '60');
    await app.press('button', 'Bake GLB');
    expect((await app.downloaded('.glb')).length).toBeGreaterThan(10_000);
  });
});

describe('the scene file', () => {
  it('takes the scene to another browser', async () => {
    const packed = file('copy.warper', await app.savedAsFile('The Lamp Round'));
    const input = await app.page.$('header input[type=file]');
    await input!.uploadFile(packed);
    await app.page.waitForSelector('[data-segment]', { timeout: 120_000 });
    expect(app.page.url()).not.toMatch(/lamp-round/);
    expect((await app.segments()).slice(0, 2)).toEqual([
      'Idle, frames 0 to 72',
      'Walk start, frames 52 to 136',
    ]);
  });
});
