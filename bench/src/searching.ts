import type { AddressInfo } from 'node:net';
import { Agent, createServer, get } from 'node:http';
import type { ListedClip } from '@warper/formats';
import { Catalogue, libraryRoutes, workHere } from '@warper/server';
import express from 'express';

const CLIPS = 10_000;
const REQUESTS = 400;
const AT_ONCE = 8;
const ACTS = ['Walk', 'Turn', 'Idle', 'Wave', 'Sit down', 'Stand up', 'Lift', 'Look out', 'Carry', 'Trot'];
const HOWS = ['slow', 'tired', 'brisk', 'on the stair', 'with lantern', 'in wind', 'at night', 'careful'];
const WORDS = [
  'walk',
  'turn le',
  'lantern night',
  'sit',
  'carry stair',
  'brisk wave',
  'carfeul walk',
  'lantrn',
  'trot 77',
  'look out wind',
];

function makeClip(i: number): ListedClip {
  const act = ACTS[i % ACTS.length]!;
  const how = HOWS[Math.floor(i / ACTS.length) % HOWS.length]!;
  const frames = 30 + (i % 90);
  return {
    id: `clip${i}#0`,
    source: `clip${i}`,
    file: `${how}/${act} ${i}.bvh`,
    name: `${act} ${how} ${i}`,
    facts: {
      frames,
      rate: 30,
      seconds: frames / 30,
      restPose: false,
      travelMetres: i % 3,
      turnDegrees: ((i * 37) % 180) - 90,
      meanSpeed: 1,
      strideSpeed: null,
      jumps: [],
      floatCm: 0,
      leftFoot: [{ start: 2, end: 19 }],
      rightFoot: [{ start: 17, end: 30 }],
      loop: {
        verdict: i % 2 ? 'ordinary' : 'none',
        in: 0,
        out: frames,
        period: frames,
        gapMetres: 0,
        gapDegrees: 0,
        cycle: { x: 0, z: 0, theta: 0 },
      } as unknown as ListedClip['facts']['loop'],
    },
  };
}

/** Times of requests, so many at once: the median and the 95th percentile in milliseconds, and how many a second. */
async function ask(
  paths: readonly string[],
  port: number,
  atOnce: number,
  before: () => void = () => undefined,
): Promise<{ p50: number; p95: number; rate: number }> {
  const agent = new Agent({ keepAlive: true, maxSockets: atOnce });
  const times: number[] = [];
  let next = 0;
  const one = (path: string): Promise<void> =>
    new Promise((done, fail) => {
      before();
      const since = performance.now();
      get({ port, path, agent }, (response) => {
        response.resume();
        response.on('end', () => {
          times.push(performance.now() - since);
          if (response.statusCode === 200) done();
          else fail(new Error(`${path}: ${response.statusCode}`));
        });
      }).on('error', fail);
    });
  const since = performance.now();
  await Promise.all(
    Array.from({ length: atOnce }, async () => {
      while (next < REQUESTS) await one(paths[next++ % paths.length]!);
    }),
  );
  const seconds = (performance.now() - since) / 1000;
  agent.destroy();
  times.sort((a, b) => a - b);
  return {
    p50: times[times.length >> 1]!,
    p95: times[Math.floor(times.length * 0.95)]!,
    rate: REQUESTS / seconds,
  };
}

/** Searches of the library's service over HTTP, beside pages found by looking through every clip for the letters. */
export async function benchSearching(): Promise<void> {
  const catalogue = new Catalogue();
  const clips = Array.from({ length: CLIPS }, (_, i) => makeClip(i));
  const put = (clip: ListedClip): void =>
    catalogue.put(
      { path: `/${clip.id}`, name: clip.file },
      { source: clip.source, clips: [clip], bodies: [], previews: [] },
    );
  clips.forEach(put);
  const served = {
    catalogue,
    waiting: 0,
    problems: () => [],
    check: () => Promise.reject(new Error('There are no files.')),
  };
  const app = express();
  app.use('/api', libraryRoutes(served, workHere, { perMinute: 1e9 }));
  app.get('/plain', (req, res) => {
    const words = String(req.query.q).toLowerCase().split(' ');
    const matches = clips.filter((c) => {
      const text = `${c.name} ${c.file}`.toLowerCase();
      return words.every((w) => text.includes(w));
    });
    res.json({ total: matches.length, clips: matches.slice(0, 50) });
  });
  const server = createServer(app);
  await new Promise<void>((done) => server.listen(0, done));
  const { port } = server.address() as AddressInfo;
  const paths = (base: string): string[] => WORDS.map((w) => `${base}?q=${encodeURIComponent(w)}`);
  // A clip that comes in between makes every search one that was never made before.
  const anew = (): void => put(clips[0]!);
  await ask(paths('/api/clips'), port, 1);
  const first = await ask(paths('/api/clips'), port, 1, anew);
  const again = await ask(paths('/api/clips'), port, AT_ONCE);
  const plain = await ask(paths('/plain'), port, 1);
  server.close();
  console.log(`Searches of ${CLIPS} clips over HTTP, by words, facts and one wrong letter, ranked`);
  const line = (name: string, r: typeof first): string =>
    `  ${name}: median ${r.p50.toFixed(1)} ms, 95 % within ${r.p95.toFixed(1)} ms, ${r.rate.toFixed(0)} a second`;
  console.log(line('words that were never looked for', first));
  console.log(line(`the same words by ${AT_ONCE} at once`, again));
  console.log(line('letters looked for in every name, unranked', plain));
  console.log(
    `  ratio of the 95th percentiles: ${(plain.p95 / first.p95).toFixed(2)} and ${(plain.p95 / again.p95).toFixed(2)}\n`,
  );
}
