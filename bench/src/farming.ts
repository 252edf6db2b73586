import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { BakeJobPage } from '@warper/formats';
import type { Farm } from '../../scripts/farm.mjs';
import { REDIS_SERVER, askForBake, startFarm, warper } from '../../scripts/farm.mjs';

/** Bakes of the whole demonstration in a round, and rounds; the machine's mood changes, so that all are measured in turn. */
const BAKES = 8;
const ROUNDS = 3;

/**
 * Bakes a minute by workers behind Redis, and by one process after the other, which is the peer, in turn. Starting a worker is not
 * measured, that of the process is: that is what a farm saves.
 */
export async function benchFarming(): Promise<void> {
  if (!existsSync(REDIS_SERVER)) {
    console.log('Bake farm: not measured, since there is no redis-server\n');
    return;
  }
  const folder = mkdtempSync(join(tmpdir(), 'warper-bench-'));
  const path = join(folder, 'round.warper');
  warper('assemble', 'demo/made/lamp-round.cues.json', '-o', path);
  const scene = new Uint8Array(readFileSync(path));
  const farms = await Promise.all([farmOf(1), farmOf(2)]);
  const alone = async (): Promise<void> => {
    for (let i = 0; i < BAKES; i++) warper('bake', path, '-o', join(folder, 'out.glb'));
  };
  const ways = [alone, ...farms.map((farm) => () => bakeAll(farm.api, scene))];
  const rates: number[][] = ways.map(() => []);
  for (let round = 0; round <= ROUNDS; round++)
    for (const [i, way] of ways.entries()) {
      const since = performance.now();
      await way();
      // The first round is there for the engine to compile what it runs.
      if (round > 0) rates[i]!.push((BAKES * 60_000) / (performance.now() - since));
    }
  await Promise.all(farms.map((farm) => farm.stop()));
  rmSync(folder, { recursive: true });
  const median = (list: readonly number[]): number => [...list].sort((x, y) => x - y)[list.length >> 1]!;
  const [peer, one, two] = rates.map(median) as [number, number, number];
  const line = (name: string, rate: number): string =>
    `  ${name.padEnd(18)}${rate.toFixed(0)} bakes a minute, ${(rate / peer).toFixed(2)} times as many`;
  console.log(`Bake farm: the whole demonstration, ${BAKES} bakes in a round`);
  console.log(line('a process each', peer));
  console.log(line('1 worker', one));
  console.log(line('2 workers', two));
  console.log(`  ratio             ${(two / one).toFixed(2)} times one worker on two cores\n`);
}

async function farmOf(workers: number): Promise<Farm> {
  const farm = await startFarm();
  for (let i = 0; i < workers; i++) await farm.startWorker();
  return farm;
}

async function bakeAll(api: string, scene: Uint8Array): Promise<void> {
  for (let i = 0; i < BAKES; i++) await askForBake(api, scene, `name=bake-${i}`);
  for (;;) {
    const { bakes } = (await (await fetch(`${api}/bakes?per=${BAKES}`)).json()) as BakeJobPage;
    if (bakes.every((bake) => bake.state === 'done')) return;
    await new Promise((next) => setTimeout(next, 50));
  }
}
