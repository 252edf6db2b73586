import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, afterEach, beforeAll, describe, expect, it } from '@jest/globals';
import type { BakeJob, BakeJobPage } from '@warper/formats';
import { MotionLibrary, assembleCues, parseCueSheet, readMotionFile, writeSceneFile } from '@warper/formats';
import { makeApp } from '../app';
import { parseBake } from './asks';
import type { BakeThreads } from './bakeThreads';
import { bakesHere } from './bakeThreads';
import { bakeSceneFile } from './bakeWork';
import { BAKE_LIMITS } from './bakes';
import type { BakeLimits } from './bakes';
import { LocalBakes } from './localBakes';
import { bakeRoutes } from './routes';

const made = (name: string): string => fileURLToPath(new URL(`../../../demo/made/${name}`, import.meta.url));
const root = mkdtempSync(join(tmpdir(), 'warper-test-'));
let scene: Uint8Array<ArrayBuffer>;

beforeAll(async () => {
  const cast = (name: string, body: string, clip: string): object => ({ name, body, cues: [{ clip }] });
  const sheet = parseCueSheet({
    format: 'warper-cues',
    version: 1,
    rate: 30,
    characters: [
      cast('Keeper', 'keeper.glb', 'keeper-walk.glb'),
      cast('Visitor', 'visitor.glb', 'visitor-nod.glb'),
    ],
  });
  const read = async (path: string): Promise<Uint8Array> => new Uint8Array(readFileSync(made(path)));
  const { scene: document, library } = await assembleCues(sheet, read, new MotionLibrary());
  scene = new Uint8Array(writeSceneFile(document, library));
});
afterAll(() => rmSync(root, { recursive: true }));

/** Threads whose bakes begin when they are let, to look at what is so meanwhile. */
function gated(count = 1): BakeThreads & { open: () => void } {
  const here = bakesHere(count);
  let open: () => void = () => undefined;
  const gate = new Promise<void>((done) => (open = done));
  return {
    ...here,
    open: () => open(),
    bake: async (task, progress, signal) => {
      const broken = new Promise<void>((_, fail) =>
        signal.addEventListener('abort', () => fail(signal.reason as Error)),
      );
      await Promise.race([gate, broken]);
      return here.bake(task, progress, signal);
    },
  };
}

interface Served {
  readonly url: string;
  /** Everything that bakes have on the disk. */
  readonly files: () => string[];
  readonly close: () => Promise<void>;
}
const served: Served[] = [];
afterEach(async () => {
  for (const one of served.splice(0)) await one.close();
});

async function serve(
  threads: BakeThreads = bakesHere(),
  limits: Partial<BakeLimits> = {},
  mostSceneBytes?: number,
): Promise<Served> {
  const folder = mkdtempSync(join(root, 'bakes-'));
  const bakes = await LocalBakes.open(folder, threads, { ...BAKE_LIMITS, ...limits });
  const routes = bakeRoutes(bakes, folder, mostSceneBytes);
  const server = createServer(makeApp({ application: root, demonstration: root }, { bakes: routes }));
  await new Promise<void>((done) => server.listen(0, done));
  const one = {
    url: `http://localhost:${(server.address() as AddressInfo).port}/api/bakes`,
    files: () =>
      readdirSync(folder, { recursive: true, withFileTypes: true }).flatMap((e) =>
        e.isFile() ? [e.name] : [],
      ),
    close: async () => {
      server.closeAllConnections();
      server.close();
      await bakes.close();
      expect(readdirSync(folder)).toEqual([]);
    },
  };
  served.push(one);
  return one;
}

const post = (
  { url }: Served,
  query = '',
  body: BodyInit = scene,
  type = 'application/zip',
): Promise<Response> => fetch(`${url}?${query}`, { method: 'POST', headers: { 'content-type': type }, body });
const ask = async (one: Served, query = ''): Promise<BakeJob> => {
  const response = await post(one, query);
  expect(response.status).toBe(201);
  const job = (await response.json()) as BakeJob;
  expect(response.headers.get('location')).toBe(`/api/bakes/${job.id}`);
  return job;
};
const codeOf = async (response: Response): Promise<[number, string]> => [
  response.status,
  ((await response.json()) as { error: { code: string } }).error.code,
];
/** The events of a bake up to its end. */
const eventsOf = async ({ url }: Served, { id }: BakeJob): Promise<{ event: string; data: BakeJob }[]> => {
  const response = await fetch(`${url}/${id}/events`);
  expect(response.headers.get('content-type')).toMatch(/^text\/event-stream/);
  return (await response.text())
    .split('\n\n')
    .map((block) => Object.fromEntries(block.split('\n').map((line) => line.split(/:(.*)/s))))
    .flatMap(({ event, data }) =>
      event ? [{ event: event as string, data: JSON.parse(data as string) as BakeJob }] : [],
    );
};
const ended = async (one: Served, job: BakeJob): Promise<BakeJob> => (await eventsOf(one, job)).at(-1)!.data;

describe('a bake as a job', () => {
  it('gives the very bytes that a bake without a server does', async () => {
    const one = await serve();
    const query =
      'format=glb&together=false&keys=reduced&rate=24&part=0-20%20Start&part=10-30&loop=drop-doubled';
    const job = await ended(one, await ask(one, query));
    expect(job.state).toBe('done');
    const path = join(root, 'scene.warper');
    const folder = mkdtempSync(join(root, 'local-'));
    writeFileSync(path, scene);
    const local = await bakeSceneFile(
      {
        scene: path,
        ask: parseBake({
          format: 'glb',
          together: 'false',
          keys: 'reduced',
          rate: '24',
          part: ['0-20 Start', '10-30'],
          loop: 'drop doubled',
        }),
        folder,
        mostBytes: 1e9,
      },
      () => undefined,
    );
    expect(job.files).toEqual(local);
    expect(job.files.map((f) => [f.characters, f.frames])).toEqual([
      [['Keeper'], [16]],
      [['Keeper'], [16]],
      [['Visitor'], [16]],
      [['Visitor'], [16]],
    ]);
    for (const { name, sha256, type } of job.files) {
      const response = await fetch(`${one.url}/${job.id}/files/${encodeURIComponent(name)}`);
      expect([response.headers.get('etag'), response.headers.get('content-type')]).toEqual([
        `"${sha256}"`,
        type,
      ]);
      const bytes = new Uint8Array(await response.arrayBuffer());
      expect(createHash('sha256').update(bytes).digest('hex')).toBe(sha256);
      expect(Buffer.compare(bytes, readFileSync(join(folder, name)))).toBe(0);
      expect((await readMotionFile(bytes, name)).clips[0]!.frames).toBe(16);
    }
  });

  it('tells how far it is, and only once what has not changed', async () => {
    const threads = gated();
    const one = await serve(threads);
    const first = await ask(one);
    expect(first).toMatchObject({ state: 'waiting', share: 0, files: [], error: null });
    const events = eventsOf(one, first);
    await new Promise((next) => setTimeout(next, 300));
    threads.open();
    const told = await events;
    expect(told.every(({ event }) => event === 'bake')).toBe(true);
    const shares = told.map(({ data }) => data.share);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(new Set(told.map(({ data }) => `${data.state} ${data.share}`)).size).toBe(told.length);
    expect([told[0]!.data.state, told.at(-1)!.data.state]).toEqual(['running', 'done']);
    // Who asks later is told the end at once.
    expect((await eventsOf(one, first)).map(({ data }) => data.state)).toEqual(['done']);
  });

  it('goes without a trace when it is cancelled, waiting or running or done', async () => {
    const threads = gated();
    const one = await serve(threads);
    const [running, waiting] = [await ask(one), await ask(one)];
    expect(await codeOf(await fetch(`${one.url}/${running.id}/files/x.glb`))).toEqual([409, 'not-done']);
    const events = eventsOf(one, running);
    await new Promise((next) => setTimeout(next, 100));
    for (const { id } of [running, waiting]) {
      expect((await fetch(`${one.url}/${id}`, { method: 'DELETE' })).status).toBe(204);
      expect(await codeOf(await fetch(`${one.url}/${id}`))).toEqual([404, 'no-bake']);
      expect(await codeOf(await fetch(`${one.url}/${id}`, { method: 'DELETE' }))).toEqual([404, 'no-bake']);
    }
    expect((await events).at(-1)!.event).toBe('removed');
    expect(one.files()).toEqual([]);
    threads.open();
    const done = await ended(one, await ask(one));
    expect(one.files()).toEqual(done.files.map((f) => f.name));
    await fetch(`${one.url}/${done.id}`, { method: 'DELETE' });
    expect(one.files()).toEqual([]);
    expect(await (await fetch(one.url)).json()).toEqual({ total: 0, bakes: [] });
  });

  it.each([
    ['character=Nobody', 'no-character'],
    ['part=500-400', 'query'],
    ['format=xyz', 'query'],
    ['formt=glb', 'query'],
    ['format=bvh&keys=reduced', 'not-held'],
    ['format=glb&unitsPerMetre=100', 'not-held'],
  ])('says what is wrong with %s, and leaves nothing', async (query, code) => {
    const one = await serve();
    const response = await post(one, query);
    if (response.status === 201) {
      const job = await ended(one, (await response.json()) as BakeJob);
      expect([job.state, job.error?.code]).toEqual(['failed', code]);
      expect(job.error?.hint).not.toBe('');
    } else expect(await codeOf(response)).toEqual([400, code]);
    expect(one.files()).toEqual([]);
  });

  it('takes scene files alone, of a type that no page of another site can send, and none too large', async () => {
    const one = await serve(bakesHere(), {}, 100_000);
    expect(scene.length).toBeGreaterThan(100_000);
    expect(await codeOf(await post(one, '', scene.slice(0, 1000), 'text/plain'))).toEqual([
      415,
      'not-a-scene',
    ]);
    expect(await codeOf(await post(one, '', 'HIERARCHY'))).toEqual([415, 'not-a-scene']);
    expect(await codeOf(await post(one, '', ''))).toEqual([415, 'not-a-scene']);
    expect(await codeOf(await post(one))).toEqual([413, 'too-many-bytes']);
    // In parts, without a length said before.
    const status = await new Promise<number>((done, fail) => {
      const sent = request(one.url, { method: 'POST', headers: { 'content-type': 'application/zip' } }, (r) =>
        done(r.statusCode!),
      ).on('error', fail);
      for (let i = 0; i < scene.length; i += 50_000) sent.write(scene.subarray(i, i + 50_000));
      sent.end();
    });
    expect(status).toBe(413);
    const torn = await ended(one, (await (await post(one, '', scene.slice(0, 50_000))).json()) as BakeJob);
    expect([torn.state, torn.error?.code]).not.toContain('done');
    expect(torn.error?.message).not.toMatch(/internal|undefined|TypeError/);
    expect(one.files()).toEqual([]);
  });

  it('is not taken on where its scene file does not come whole', async () => {
    const one = await serve();
    const said: unknown[] = [];
    const { error } = console;
    console.error = (...words: unknown[]) => void said.push(...words);
    await new Promise<void>((done) => {
      const headers = { 'content-type': 'application/zip', 'content-length': scene.length };
      const sent = request(one.url, { method: 'POST', headers });
      sent.on('error', () => done());
      sent.write(scene.subarray(0, 50_000));
      setTimeout(() => sent.destroy(new Error('gone')), 100);
    });
    await new Promise((next) => setTimeout(next, 100));
    console.error = error;
    // Nobody's fault but of who went: nothing of it is left, and nothing is said.
    expect([one.files(), said]).toEqual([[], []]);
    expect(((await (await fetch(one.url)).json()) as BakeJobPage).total).toBe(0);
  });

  it('is bounded in number, size and time', async () => {
    const threads = gated();
    const one = await serve(threads, { mostWaiting: 1, mostKept: 2 });
    const jobs = [await ask(one), await ask(one)];
    const refused = await post(one);
    expect(refused.headers.get('retry-after')).not.toBeNull();
    expect(await codeOf(refused)).toEqual([503, 'busy']);
    threads.open();
    for (const job of jobs) await ended(one, job);
    const third = await ask(one);
    await ended(one, third);
    const { bakes, total } = (await (await fetch(one.url)).json()) as BakeJobPage;
    expect([total, bakes.map((b) => b.id)]).toEqual([2, [third.id, jobs[1]!.id]]);
    expect(((await (await fetch(`${one.url}?per=1&page=2`)).json()) as BakeJobPage).bakes[0]!.id).toBe(
      jobs[1]!.id,
    );

    const small = await serve(bakesHere(), { mostBytes: 10_000 });
    expect((await ended(small, await ask(small))).error?.code).toBe('too-large');
    expect(small.files()).toEqual([]);
    // One that is larger than it was reckoned to be is ended where it passes the limit, and leaves no part of it.
    const [file] = (await ended(one, await ask(one, 'format=bvh&character=Keeper&unitsPerMetre=1000000')))
      .files;
    const growing = await serve(bakesHere(), { mostBytes: file!.bytes - 1 });
    const grown = await ended(
      growing,
      await ask(growing, 'format=bvh&character=Keeper&unitsPerMetre=1000000'),
    );
    expect(grown.error?.code).toBe('too-large');
    expect(growing.files()).toEqual([]);
    const brief = await serve(bakesHere(), { kept: 50 });
    const gone = await ended(brief, await ask(brief));
    await new Promise((next) => setTimeout(next, 200));
    expect(await codeOf(await fetch(`${brief.url}/${gone.id}`))).toEqual([404, 'no-bake']);
    expect(brief.files()).toEqual([]);
  });

  it('answers addresses and methods that there are not', async () => {
    const one = await serve();
    const { id } = await ask(one);
    const head = await fetch(`${one.url}/${id}/events`, { method: 'HEAD' });
    expect([head.status, head.headers.get('content-type')]).toEqual([
      200,
      expect.stringMatching(/^text\/event-stream/),
    ]);
    const put = await fetch(`${one.url}/${id}`, { method: 'PUT' });
    expect([put.status, put.headers.get('allow')]).toEqual([405, 'GET, HEAD, DELETE']);
    expect((await fetch(one.url, { method: 'DELETE' })).headers.get('allow')).toBe('GET, HEAD, POST');
    expect(await codeOf(await fetch(`${one.url}/none`))).toEqual([400, 'query']);
    expect(await codeOf(await fetch(`${one.url}/${id}/other`))).toEqual([404, 'no-address']);
    await ended(one, (await (await fetch(`${one.url}/${id}`)).json()) as BakeJob);
    for (const name of ['..%2f..%2fsecret', '.scene.warper', 'none.glb'])
      expect(await codeOf(await fetch(`${one.url}/${id}/files/${name}`))).toEqual([404, 'no-bake']);
  });
});
