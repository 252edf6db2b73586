import { tmpdir } from 'node:os';
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createServer } from 'node:http';
import express from 'express';
import { makeApp } from './app';
import { makeBakeThreads } from './bakes/bakeThreads';
import type { Bakes } from './bakes/bakes';
import { LONGEST_BAKE } from './bakes/bakes';
import { redisPlace } from './bakes/farm';
import { LocalBakes } from './bakes/localBakes';
import { RedisBakes } from './bakes/redisBakes';
import { bakeRoutes } from './bakes/routes';
import { endWith } from './endWith';
import { LOOPBACK, onlyFor, ownNames } from './hosts';
import { ClipFolder } from './library/clipFolder';
import { libraryRoutes } from './library/routes';
import { makeThreads } from './library/threads';
import { jobsOf, redisOf, tellStarted } from './settings';

const DEFAULT_PORT = 4173;

const port = Number(process.env.PORT ?? DEFAULT_PORT);
if (!Number.isInteger(port) || port < 0 || port > 65535) {
  console.error(`PORT is "${process.env.PORT}"; it should be a number from 0 to 65535.`);
  process.exit(2);
}
const folder = process.env.WARPER_ROOT ?? process.cwd();
const threads = makeThreads(fileURLToPath(new URL('./libraryWorker.mjs', import.meta.url)));
const clips = await openClips(process.env.WARPER_LIBRARY ?? resolve(folder, 'demo/made'));
const bakeFolder = process.env.WARPER_BAKES ?? tmpdir();
const redis = redisOf(process.env.REDIS_URL);
const bakes = await openBakes();
const app = makeApp(
  { application: resolve(folder, 'web/dist'), demonstration: resolve(folder, 'demo/made') },
  { library: libraryRoutes(clips, threads), bakes: bakeRoutes(bakes, bakeFolder) },
);
const host = process.env.HOST ?? LOOPBACK;
const server = createServer(
  // A request that is not sent whole, or not taken, within this time is dropped; looked for every so often.
  { requestTimeout: 300_000, headersTimeout: 10_000, connectionsCheckingInterval: 2_000 },
  express()
    .disable('x-powered-by')
    .use(onlyFor(ownNames(host, process.env.WARPER_HOSTS)), app),
);
server.listen(port, host);
server.on('listening', () => {
  const address = server.address();
  const actual = typeof address === 'object' && address ? address.port : port;
  const url = `http://localhost:${actual}`;
  tellStarted(
    { url, host, queue: redis === null ? 'embedded' : redisPlace(redis) },
    `Warper: ${url}/scene/lamp-round${host === LOOPBACK ? '' : `\nIt listens on ${host}: other machines may reach it.`}`,
  );
});
server.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EADDRINUSE')
    console.error(`Port ${port} is taken. Choose another one: PORT=${port + 1} npm start`);
  else if (error.code === 'EACCES')
    console.error(`Port ${port} may not be opened. Choose one above 1023: PORT=${DEFAULT_PORT} npm start`);
  else console.error(`The server cannot start: ${error.message}`);
  process.exit(1);
});
endWith(async () => {
  const closed = new Promise((done) => server.close(done));
  server.closeIdleConnections();
  // What is being sent may be finished; nobody is waited for longer.
  setTimeout(() => server.closeAllConnections(), 2000).unref();
  await closed;
  await Promise.all([clips.close(), threads.close(), bakes.close()]);
});

/** Bakes in threads of this process, or by workers behind Redis. */
function openBakes(): Promise<Bakes> {
  if (redis !== null) return RedisBakes.open(redis, bakeFolder);
  const thread = fileURLToPath(new URL('./bakeThread.mjs', import.meta.url));
  return LocalBakes.open(bakeFolder, makeBakeThreads(thread, LONGEST_BAKE, jobsOf(process.env.WARPER_JOBS)));
}

/** The folder of the library; without it there is no server. */
async function openClips(path: string): Promise<ClipFolder> {
  try {
    return await ClipFolder.open(path, threads);
  } catch (error) {
    console.error(`The library's folder cannot be opened: ${(error as Error).message}`);
    console.error('Name another one: WARPER_LIBRARY=folder npm start');
    process.exit(1);
  }
}
