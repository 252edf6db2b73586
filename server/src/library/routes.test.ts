import {
  copyFileSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { createServer, request } from 'node:http';
import type { IncomingHttpHeaders } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { clipFacts, defined, jointOfRole, sameSkeleton } from '@warper/core';
import type { ClipPage, ListedBody, ServerState } from '@warper/formats';
import { readMotionFile } from '@warper/formats';
import express from 'express';
import fc from 'fast-check';
import { makeApp } from '../app';
import { Catalogue } from './catalogue';
import { ClipFolder } from './clipFolder';
import { bakesHere } from '../bakes/bakeThreads';
import { LocalBakes } from '../bakes/localBakes';
import { bakeRoutes } from '../bakes/routes';
import { openapi } from '../openapi';
import { libraryRoutes } from './routes';
import { measure, workHere } from './work';

const made = (name: string): string => fileURLToPath(new URL(`../../../demo/made/${name}`, import.meta.url));
const outside = mkdtempSync(join(tmpdir(), 'warper-outside-'));
const root = mkdtempSync(join(tmpdir(), 'warper-clips-'));
mkdirSync(join(root, 'gallery'));
for (const name of ['keeper-walk.glb', 'keeper-turn-left-90.glb', 'visitor.glb', 'keeper.glb'])
  copyFileSync(made(name), join(root, name));
copyFileSync(made('Set down.bvh'), join(root, 'gallery/Set down.bvh'));
writeFileSync(join(root, 'torn.bvh'), 'HIERARCHY\nROOT');
writeFileSync(join(root, 'notes.txt'), 'not a motion');
copyFileSync(made('keeper-wave.glb'), join(outside, 'secret.glb'));
symlinkSync(join(outside, 'secret.glb'), join(root, 'link.glb'));
symlinkSync(outside, join(root, 'linked folder'));

let folder: ClipFolder;
let port = 0;
const server = createServer();
const until = async (holds: () => boolean): Promise<void> => {
  for (let i = 0; !holds(); i++) {
    if (i > 400) throw new Error('It did not come to be.');
    await new Promise((next) => setTimeout(next, 50));
  }
};
beforeAll(async () => {
  folder = await ClipFolder.open(root, workHere);
  const app = makeApp(
    { application: outside, demonstration: outside },
    { library: libraryRoutes(folder, workHere) },
  );
  server.on('request', app);
  await new Promise<void>((done) => server.listen(0, done));
  port = (server.address() as AddressInfo).port;
  await until(() => folder.catalogue.size === 3 && folder.problems().length === 1 && folder.waiting === 0);
});
afterAll(async () => {
  server.close();
  await folder.close();
  rmSync(root, { recursive: true });
});

interface Answer {
  readonly status: number;
  readonly headers: IncomingHttpHeaders;
  readonly bytes: Uint8Array;
}
/** Asks for a path as it is written, without the client tidying it. */
const get = (path: string, headers: Record<string, string> = {}, method = 'GET'): Promise<Answer> =>
  new Promise((resolve, reject) => {
    request({ port, path: `/api${path}`, headers, method }, (response) => {
      const parts: Buffer[] = [];
      response.on('data', (part: Buffer) => parts.push(part));
      response.on('end', () =>
        resolve({
          status: response.statusCode!,
          headers: response.headers,
          bytes: new Uint8Array(Buffer.concat(parts)),
        }),
      );
    })
      .on('error', reject)
      .end();
  });
const json = async <T>(path: string): Promise<T> =>
  JSON.parse(new TextDecoder().decode((await get(path)).bytes)) as T;
const idOf = async (name: string): Promise<string> =>
  encodeURIComponent((await json<ClipPage>(`/clips?q=${encodeURIComponent(name)}`)).clips[0]!.id);
const characterOf = async (name: string): Promise<string> =>
  encodeURIComponent((await json<ListedBody[]>('/characters')).find((c) => c.name === name)!.id);
const motionOf = async (query: string) => {
  const { status, bytes } = await get(query);
  expect(status).toBe(200);
  return readMotionFile(bytes, 'taken.glb');
};

describe('the library service', () => {
  it('finds clips by words, facts and folders, a page at a time', async () => {
    const names = async (query: string): Promise<string[]> =>
      (await json<ClipPage>(`/clips?${query}`)).clips.map((c) => c.name);
    expect(await names('q=walk')).toEqual(['Walk']);
    expect(await names('filters=turns%20left')).toEqual(['Turn left 90']);
    expect(await names('filters=travels,loopable')).toEqual(['Walk']);
    expect(await names('tag=gallery')).toEqual(['Set down']);
    expect(await names('q=gallery')).toEqual(['Set down']);
    expect(await names('sort=name&per=2')).toEqual(['Set down', 'Turn left 90']);
    expect(await names('sort=name&per=2&page=2')).toEqual(['Walk']);
    expect((await json<ClipPage>('/clips?per=2')).total).toBe(3);
  });

  it('says what could not be read, and keeps links and other files out', async () => {
    const state = await json<ServerState>('/library');
    expect(state).toMatchObject({ clips: 3, waiting: 0, problemCount: 1 });
    expect(state.problems[0]).toMatchObject({ file: 'torn.bvh' });
    expect(state.problems[0]!.message.length).toBeGreaterThan(10);
    expect((await json<ListedBody[]>('/characters')).map((c) => c.name)).toEqual(['Keeper', 'Visitor']);
  });

  it('gives the facts and the preview of a clip', async () => {
    const id = await idOf('walk');
    expect(await json(`/clips/${id}`)).toMatchObject({ name: 'Walk', facts: { frames: 31 } });
    const preview = await json<{ figures: number; lines: number; places: number[] }>(`/clips/${id}/preview`);
    expect(preview.places).toHaveLength(preview.figures * preview.lines * 4);
  });

  it('gives a file as it came, whole, in parts, or not again', async () => {
    const path = `/clips/${await idOf('walk')}/file`;
    const own = new Uint8Array(readFileSync(made('keeper-walk.glb')));
    const whole = await get(path);
    expect(Buffer.compare(whole.bytes, own)).toBe(0);
    const { etag } = whole.headers;
    expect(etag).toMatch(/^"[0-9a-f]{32}"$/);
    expect((await get(path, { 'if-none-match': etag! })).status).toBe(304);
    const part = await get(path, { range: 'bytes=100-199' });
    expect(part.status).toBe(206);
    expect(part.headers['content-range']).toBe(`bytes 100-199/${own.length}`);
    expect(Buffer.compare(part.bytes, own.subarray(100, 200))).toBe(0);
    expect(Buffer.compare((await get(path, { range: 'bytes=-10' })).bytes, own.subarray(-10))).toBe(0);
    expect((await get(path, { range: `bytes=${own.length}-` })).status).toBe(416);
    expect((await get(path, { range: 'bytes=0-9', 'if-range': '"other"' })).status).toBe(200);
    expect((await get(path, { range: 'bytes=0-9', 'if-range': etag! })).status).toBe(206);
    expect((await get(path, {}, 'HEAD')).headers['content-length']).toBe(String(own.length));
  });

  it('prepares a clip for another character, in place, at a rate and speed', async () => {
    const path = `/clips/${await idOf('walk')}/motion`;
    const visitor = await characterOf('Visitor');
    const { clips, bodies } = await motionOf(
      `${path}?character=${visitor}&speed=0.5&rate=60&travel=in-place`,
    );
    const [body] = (await readMotionFile(new Uint8Array(readFileSync(made('visitor.glb'))), 'visitor.glb'))
      .bodies;
    expect(bodies[0]).toMatchObject({ skinned: true });
    expect(sameSkeleton(clips[0]!.skeleton, body!.skeleton)).toBe(true);
    const facts = clipFacts(clips[0]!);
    expect(facts).toMatchObject({ rate: 60, frames: 124 });
    expect(facts.travelMetres).toBeLessThan(0.001);
  });

  it('prepares a part, without the body, and the same request the same to the byte', async () => {
    const path = `/clips/${await idOf('turn left')}/motion?in=10&out=40&body=without`;
    const { clips, bodies } = await motionOf(path);
    expect(clips[0]!.frames).toBe(30);
    expect(bodies[0]!.skinned).toBe(false);
    const [a, b] = [await get(path), await get(path)];
    expect(a.headers.etag).toBe(b.headers.etag);
    const bvh = await get(`/clips/${await idOf('set down')}/motion?format=bvh`);
    expect(new TextDecoder().decode(bvh.bytes.subarray(0, 9))).toBe('HIERARCHY');
  });

  it('turns a head to what is asked for, and to nothing unasked', async () => {
    const path = `/clips/${await idOf('set down')}/motion?body=without`;
    const headOf = async (query: string): Promise<number[]> => {
      const { skeleton, rotations } = defined((await motionOf(path + query)).clips[0]);
      const head = jointOfRole(skeleton, 'head') * 4;
      return [...rotations.slice(head, head + 4)];
    };
    const [plain, left, right] = [
      await headOf(''),
      await headOf('&look=3,1.5,2'),
      await headOf('&look=-3,1.5,2'),
    ];
    expect(await headOf('')).toEqual(plain);
    // Turned about the vertical, y, to either side.
    expect(left[1]).toBeGreaterThan(plain[1]! + 0.1);
    expect(right[1]).toBeLessThan(plain[1]! - 0.1);
  });

  it('takes in what comes, changes and goes', async () => {
    const path = join(root, 'late.glb');
    copyFileSync(made('dog-trot.glb'), path);
    await until(() => folder.catalogue.size === 4);
    const late = await idOf('trot');
    writeFileSync(path, readFileSync(made('dog-stand.glb')));
    const meanwhile = await get(`/clips/${late}/file`);
    expect([409, 404]).toContain(meanwhile.status);
    await until(
      () =>
        folder.catalogue.search({ words: 'stand', filters: [], tag: '', sort: 'best', page: 1, per: 9 })
          .total === 1,
    );
    expect((await get(`/clips/${late}`)).status).toBe(404);
    rmSync(path);
    await until(() => folder.catalogue.size === 3);
  });

  it('keeps what another file of the same content holds', async () => {
    const catalogue = new Catalogue();
    const measured = await measure({ path: made('keeper-walk.glb'), name: 'walk.glb' });
    const { id, source } = measured.clips[0]!;
    catalogue.put({ path: '/a', name: 'walk.glb' }, measured);
    catalogue.put({ path: '/b', name: 'again/walk.glb' }, measured);
    expect(catalogue.size).toBe(1);
    catalogue.remove('/a');
    expect(catalogue.clip(id)).toBeDefined();
    expect(catalogue.fileOf(source)).toEqual({ path: '/b', name: 'again/walk.glb' });
    catalogue.remove('/b');
    expect(catalogue.clip(id)).toBeUndefined();
    expect(catalogue.size).toBe(0);
  });
});

describe('what the service refuses', () => {
  it.each([
    ['/clips?filtres=x', 400, /Did you mean "filters"/],
    ['/clips?per=1000', 400, /200/],
    ['/clips?page=0', 400, /page/],
    ['/clips?filters=pretty', 400, /filters/],
    ['/clips/none', 404, /no such clip/],
    ['/elsewhere', 404, /nothing at this address/],
  ])('%s', async (path, status, message) => {
    const answer = await get(path);
    expect(answer.status).toBe(status);
    const { error } = JSON.parse(new TextDecoder().decode(answer.bytes)) as {
      error: { message: string; hint: string };
    };
    expect(`${error.message} ${error.hint}`).toMatch(message);
  });

  it.each([
    'speed=0',
    'speed=NaN',
    'in=40&out=20',
    'in=0&out=9999',
    'rate=-1',
    'travel=sideways',
    'format=exe',
    'character=none',
    'look=up',
    'look=1,2',
    'look=1,2,NaN',
    'look=1,2,3,4',
    'look=',
  ])('a motion with %s', async (query) => {
    const { status, bytes } = await get(`/clips/${await idOf('walk')}/motion?${query}`);
    expect([400, 404]).toContain(status);
    expect(JSON.parse(new TextDecoder().decode(bytes))).toHaveProperty('error.message');
  });

  it.each([
    '/clips/..%2f..%2fsecret.glb',
    '/clips/%2e%2e%2f%2e%2e/file',
    '/clips/%00/file',
    '/clips/C%3a%5csecret/file',
    '/clips/%2fetc%2fpasswd/file',
    '/clips/link.glb/file',
    '/../secret.glb',
    '/clips/con/file',
    '/clips/%ff/file',
  ])('a way out of the folder: %s', async (path) => {
    const { status, bytes } = await get(path);
    expect(status).toBeGreaterThanOrEqual(400);
    expect(status).toBeLessThan(500);
    expect(new TextDecoder().decode(bytes)).not.toMatch(/glTF|root:|node_modules|\/tmp\//);
  });

  it('whatever is asked: never a fault of its own', async () => {
    await fc.assert(
      fc.asyncProperty(fc.webPath(), fc.webQueryParameters(), async (path, query) => {
        const { status } = await get(`/clips${path || '/'}?${query}`);
        expect(status).toBeLessThan(500);
      }),
      { numRuns: 150 },
    );
  });

  it('more requests in a minute than it allows', async () => {
    const app = express().use('/api', libraryRoutes(folder, workHere, { perMinute: 3 }));
    const strict = createServer(app);
    await new Promise<void>((done) => strict.listen(0, done));
    const ask = (): Promise<Response> =>
      fetch(`http://localhost:${(strict.address() as AddressInfo).port}/api/library`);
    const statuses = [await ask(), await ask(), await ask(), await ask()].map((r) => r.status);
    strict.close();
    expect(statuses).toEqual([200, 200, 200, 429]);
  });
});

describe('the description of the service', () => {
  it('has an entry for every address, and every schema that it names', async () => {
    const asked = openapi.paths['/clips/{id}/motion'].get.parameters;
    expect(asked).toContainEqual({
      name: 'speed',
      in: 'query',
      description: 'How fast it plays.',
      required: false,
      schema: { type: 'number', minimum: 0.05, maximum: 20, default: 1 },
    });
    expect(asked).toContainEqual(
      expect.objectContaining({ name: 'format', schema: { enum: ['glb', 'bvh'], default: 'glb' } }),
    );
    expect(asked).toContainEqual(expect.objectContaining({ name: 'id', in: 'path', required: true }));
    expect(await json('/openapi.json')).toEqual(JSON.parse(JSON.stringify(openapi)));
    const bakes = await LocalBakes.open(root, bakesHere());
    const paths = [libraryRoutes(folder, workHere), bakeRoutes(bakes, root)].flatMap((routes) =>
      (routes as unknown as { stack: { route?: { path: string } }[] }).stack.flatMap((l) =>
        l.route ? [l.route.path.replace(/:(\w+)/g, '{$1}')] : [],
      ),
    );
    await bakes.close();
    expect(new Set(paths)).toEqual(new Set(Object.keys(openapi.paths)));
    const named = [...JSON.stringify(openapi).matchAll(/#\/components\/schemas\/(\w+)/g)].map((m) => m[1]);
    for (const name of named) expect(openapi.components.schemas).toHaveProperty(name!);
  });
});
