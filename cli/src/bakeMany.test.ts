import {
  appendFileSync,
  existsSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { build } from 'esbuild';
import type { ManyReport } from './bakeMany';
import { bakeScenes } from './bakeMany';
import { run } from './main';
import { MANIFEST } from './manifest';
import { at, folder, sheet, warper, write } from './testing';

const cues = (repeat: number): object => ({ ...sheet([{ clip: 'keeper-walk.glb', repeat }]), name: 'any' });
const scenes = [1, 2, 3].map((n) => write(`scene ${n}.cues.json`, cues(n)));
const out = (name: string): string => join(folder, name) + '/';

const bakeTo = async (name: string, ...more: string[]): Promise<ManyReport> => {
  const { json, code, err } = await warper('bake', ...scenes, '-o', out(name), ...more, '--json');
  expect([code, err]).toEqual([0, '']);
  return json;
};

describe('several scenes in one bake', () => {
  it('are files of their own, with a manifest of their hashes', async () => {
    const { files, errors, manifest } = await bakeTo('many');
    expect(errors).toEqual([]);
    expect(files.map((f) => [f.file, f.frames, f.kept])).toEqual(
      [1, 2, 3].map((n) => [join(folder, 'many', `scene-${n}-Keeper.glb`), [n === 1 ? 31 : n * 30], false]),
    );
    expect(readdirSync(out('many')).sort()).toEqual(
      [...files.map((f) => f.file.replace(/.*\//, '')), MANIFEST].sort(),
    );
    const kept = JSON.parse(readFileSync(manifest, 'utf8')) as { files: Record<string, { sha256: string }> };
    for (const { file, sha256 } of files) expect(kept.files[file.replace(/.*\//, '')]?.sha256).toBe(sha256);
  });

  it('are kept where they are as they would be made, and made again where anything is another', async () => {
    const first = await bakeTo('again');
    expect((await bakeTo('again')).files.map((f) => f.kept)).toEqual([true, true, true]);
    appendFileSync(first.files[0]!.file, 'x');
    rmSync(first.files[1]!.file);
    const mended = await bakeTo('again');
    expect(mended.files.map((f) => f.kept)).toEqual([false, false, true]);
    expect(mended.files.map((f) => f.sha256)).toEqual(first.files.map((f) => f.sha256));
    expect((await bakeTo('again', '--keys', 'reduced')).files.map((f) => f.kept)).toEqual([
      false,
      false,
      false,
    ]);
    write('scene 3.cues.json', cues(4));
    expect((await bakeTo('again', '--keys', 'reduced')).files.map((f) => f.kept)).toEqual([
      true,
      true,
      false,
    ]);
    write('scene 3.cues.json', cues(3));
  });

  it('do not wait for one that is at fault', async () => {
    const bad = write('bad.cues.json', sheet([{ clip: 'missing.glb' }]));
    const { code, json, err } = await warper('bake', scenes[0]!, bad, scenes[1]!, '-o', out('bad'), '--json');
    expect(code).toBe(1);
    expect(err).toMatch(/bad\.cues\.json: .*missing\.glb/);
    const { files, errors } = json as ManyReport;
    expect(files).toHaveLength(2);
    expect(errors).toMatchObject([{ scene: bad, code: 'no-file' }]);
    for (const { file } of files) expect(existsSync(file)).toBe(true);
  });

  it('need names of their own, a folder, and a manifest that is one', async () => {
    const twin = write('scene-1.warper.json', cues(1));
    expect(
      (await warper('bake', scenes[0]!, join(folder, 'other', '..', 'scene 1.cues.json'), '-o', out('x')))
        .err,
    ).toMatch(/Two scenes are called scene-1/);
    expect((await warper('bake', scenes[0]!, twin, '-o', at('one.glb'))).code).toBe(2);
    expect((await warper('bake', ...scenes, '-o', out('x'), '--report', at('r.html'))).code).toBe(2);
    await bakeTo('damaged');
    writeFileSync(join(folder, 'damaged', MANIFEST), '{"format": "warper-bakes"}');
    const { code, err } = await warper('bake', ...scenes, '-o', out('damaged'));
    expect([code, err]).toEqual([1, expect.stringMatching(/no manifest of bakes.*Remove it/s)]);
  });

  it('one scene is resumed by its manifest', async () => {
    for (const kept of [false, true]) {
      const { json } = await warper('bake', scenes[0]!, '-o', out('resumed'), '--resume', '--json');
      expect((json as ManyReport).files.map((f) => f.kept)).toEqual([kept]);
    }
  });
});

describe('scenes that are watched', () => {
  it('are baked again when they change, and only those', async () => {
    const stop = new AbortController();
    let text = '';
    const streams = {
      out: (t: string) => void (text += t),
      err: () => undefined,
      isTerminal: false,
      signal: stop.signal,
    };
    const ran = run(['bake', ...scenes, '-o', out('watched'), '--watch', '--json'], streams);
    const rounds = (): ManyReport[] =>
      text
        .split('\n')
        .filter(Boolean)
        .map((line) => JSON.parse(line) as ManyReport);
    const until = async (count: number): Promise<void> => {
      for (let i = 0; i < 400 && rounds().length < count; i++) await new Promise((r) => setTimeout(r, 25));
    };
    await until(1);
    write('scene 2.cues.json', cues(5));
    await until(2);
    write('scene 2.cues.json', cues(2));
    await until(3);
    stop.abort();
    expect(await ran).toBe(0);
    expect(rounds().map((r) => r.files.map((f) => f.kept))).toEqual([
      [false, false, false],
      [true, false, true],
      [true, false, true],
    ]);
  });
});

describe('scenes beside each other in threads', () => {
  let built: string;
  beforeAll(async () => {
    // Within the folder of packages, where the thread finds its own.
    built = mkdtempSync('node_modules/.bake-worker-');
    await build({
      entryPoints: ['cli/src/bakeWorker.ts'],
      outfile: join(built, 'worker.mjs'),
      bundle: true,
      platform: 'node',
      format: 'esm',
      target: 'node20',
      banner: {
        js: "import { createRequire as __own } from 'node:module'; const require = __own(import.meta.url);",
      },
    });
  });
  afterAll(() => rmSync(built, { recursive: true, force: true }));

  it('are the same to the bit', async () => {
    const one = await bakeTo('alone');
    const shares: number[] = [];
    const args = { output: out('beside'), jobs: 2 };
    const two = await bakeScenes(
      scenes,
      args,
      (s) => void shares.push(s),
      join(process.cwd(), built, 'worker.mjs'),
    );
    expect(two.errors).toEqual([]);
    expect(two.files.map((f) => f.sha256)).toEqual(one.files.map((f) => f.sha256));
    expect(shares).toEqual([1 / 3, 2 / 3, 1]);
    expect(
      Object.keys((JSON.parse(readFileSync(two.manifest, 'utf8')) as { files: object }).files),
    ).toHaveLength(3);
  });
});
