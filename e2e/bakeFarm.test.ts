import { createHash } from 'node:crypto';
import { copyFileSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { BakeJob, BakeJobPage } from '@warper/formats';
import { askForBake, startFarm, warper } from '../scripts/farm.mjs';
import type { Farm } from '../scripts/farm.mjs';
import { made } from './application';

const BAKES = 200;
const folder = mkdtempSync(join(tmpdir(), 'warper-farm-test-'));
const scenePath = join(folder, 'round.warper');
let scene: Uint8Array;
let farm: Farm;

beforeAll(async () => {
  for (const name of ['keeper.glb', 'keeper-walk.glb', 'keeper-wave.glb'])
    copyFileSync(made(name), join(folder, name));
  const cues = [{ clip: 'keeper-walk.glb', repeat: 2 }, { clip: 'keeper-wave.glb' }];
  const sheet = { format: 'warper-cues', version: 1, rate: 30 };
  writeFileSync(
    join(folder, 'round.cues.json'),
    JSON.stringify({ ...sheet, characters: [{ name: 'Keeper', body: 'keeper.glb', cues }] }),
  );
  warper('assemble', join(folder, 'round.cues.json'), '-o', scenePath);
  scene = new Uint8Array(readFileSync(scenePath));
  farm = await startFarm();
});
afterAll(async () => {
  await farm.stop();
  rmSync(folder, { recursive: true });
});

const find = async (id: string): Promise<BakeJob> =>
  (await (await fetch(`${farm.api}/bakes/${id}`)).json()) as BakeJob;
const list = async (): Promise<BakeJobPage> =>
  (await (await fetch(`${farm.api}/bakes?per=200`)).json()) as BakeJobPage;
const until = async (holds: () => Promise<boolean>, what: string): Promise<void> => {
  for (let i = 0; !(await holds()); i++) {
    if (i > 900) throw new Error(`It did not come to be that ${what}.`);
    await new Promise((next) => setTimeout(next, 100));
  }
};
const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
/** Bakes differ in their last frame, four of them in turn. */
const lastFrame = (i: number): number => 40 + (i % 4) * 10;

describe('a bake farm: a server, Redis, and workers', () => {
  it('shares 200 bakes between two workers; one is killed, and nothing is lost, done twice or different', async () => {
    // Before anything is fetched: a server closes connections that rest while this process is busy.
    const local = [40, 50, 60, 70].map((to) => {
      const path = join(folder, `local-${to}.glb`);
      warper('bake', scenePath, '-o', path, '--from', '0', '--to', String(to));
      return hashOf(readFileSync(path));
    });
    const jobs: BakeJob[] = [];
    for (let i = 0; i < BAKES; i++)
      jobs.push(await askForBake(farm.api, scene, `name=bake-${i}&part=0-${lastFrame(i)}`));
    expect(jobs.every((job) => job.state === 'waiting')).toBe(true);
    const doomed = await farm.startWorker();
    await farm.startWorker();
    const done = async (): Promise<number> =>
      (await list()).bakes.filter((bake) => bake.state === 'done').length;
    await until(async () => (await done()) >= BAKES / 4, 'a quarter is done');
    doomed.kill('SIGKILL');
    await until(async () => (await done()) === BAKES, 'all are done');
    const { total, bakes } = await list();
    expect([total, new Set(bakes.map((bake) => bake.id)).size]).toEqual([BAKES, BAKES]);
    // In the order asked for, each once, under its own name.
    expect(bakes.map((bake) => bake.files.map((f) => f.name)).reverse()).toEqual(
      jobs.map((_, i) => [`bake-${i}-Keeper.glb`]),
    );
    expect(bakes.map((bake) => bake.files[0]!.sha256).reverse()).toEqual(jobs.map((_, i) => local[i % 4]));
    const { id, files } = bakes[0]!;
    const response = await fetch(`${farm.api}/bakes/${id}/files/${files[0]!.name}`);
    expect(hashOf(new Uint8Array(await response.arrayBuffer()))).toBe(files[0]!.sha256);
  });

  it('follows, cancels and refuses bakes as a server without workers does', async () => {
    const job = await askForBake(farm.api, scene, 'keys=reduced&format=vrma');
    const told = await (await fetch(`${farm.api}/bakes/${job.id}/events`)).text();
    expect(told).toMatch(/"state":"done"/);
    const wrong = await askForBake(farm.api, scene, 'character=Nobody');
    expect(await (await fetch(`${farm.api}/bakes/${wrong.id}/events`)).text()).toMatch(/"no-character"/);

    // Rates that keep a worker busy for a while.
    const running = await askForBake(farm.api, scene, 'rate=1000&keys=reduced&errorMillimetres=0.01');
    const waiting = await askForBake(farm.api, scene);
    await until(async () => (await find(running.id)).state === 'running', 'it is at work');
    for (const { id } of [running, waiting]) {
      expect((await fetch(`${farm.api}/bakes/${id}`, { method: 'DELETE' })).status).toBe(204);
      expect((await fetch(`${farm.api}/bakes/${id}`)).status).toBe(404);
    }
    // The worker has let go of it: the next is done.
    const next = await askForBake(farm.api, scene);
    await until(async () => (await find(next.id)).state === 'done', 'the next is done');
    expect((await list()).bakes.map((bake) => bake.id)).not.toContain(running.id);
  });

  it('says when Redis is away, and goes on when it is back, though that has forgotten everything', async () => {
    const start = await farm.stopRedis();
    const answer = await fetch(`${farm.api}/bakes`);
    expect(answer.status).toBe(503);
    expect(await answer.json()).toMatchObject({ error: { code: 'no-queue' } });
    expect((await fetch(`${farm.api}/library`)).status).toBe(200);
    await start();
    await until(async () => (await fetch(`${farm.api}/bakes`)).status === 200, 'the queue is back');
    const job = await askForBake(farm.api, scene);
    await until(async () => (await find(job.id)).state === 'done', 'it is done');
  });
});
