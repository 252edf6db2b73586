import { tmpdir } from 'node:os';
import { fileURLToPath } from 'node:url';
import { makeBakeThreads } from './bakes/bakeThreads';
import { LONGEST_BAKE } from './bakes/bakes';
import { redisPlace } from './bakes/farm';
import { FarmWorker } from './bakes/farmWorker';
import { endWith } from './endWith';
import { jobsOf, redisOf, tellStarted } from './settings';

const url = redisOf(process.env.REDIS_URL);
if (url === null) {
  console.error('A worker takes bakes from Redis: REDIS_URL=redis://host:6379 warper worker');
  process.exit(2);
}
const threads = makeBakeThreads(
  fileURLToPath(new URL('./bakeThread.mjs', import.meta.url)),
  LONGEST_BAKE,
  jobsOf(process.env.WARPER_JOBS),
);
const worker = await FarmWorker.start(url, process.env.WARPER_BAKES ?? tmpdir(), threads);
tellStarted(
  { queue: redisPlace(url), jobs: threads.count },
  `Warper worker: ${threads.count} at a time, from Redis at ${redisPlace(url)}`,
);
endWith(() => worker.close());
