import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createServer } from 'node:http';
import express from 'express';
import { makeApp } from './app';
import { LOOPBACK, onlyFor, ownNames } from './hosts';
import { ClipFolder } from './library/clipFolder';
import { libraryRoutes } from './library/routes';
import { makeThreads } from './library/threads';

const DEFAULT_PORT = 4173;

const port = Number(process.env.PORT ?? DEFAULT_PORT);
if (!Number.isInteger(port) || port < 0 || port > 65535) {
  console.error(`PORT is "${process.env.PORT}"; it should be a number from 0 to 65535.`);
  process.exit(2);
}
const folder = process.env.WARPER_ROOT ?? process.cwd();
const threads = makeThreads(fileURLToPath(new URL('./libraryWorker.mjs', import.meta.url)));
const clips = await openClips(process.env.WARPER_LIBRARY ?? resolve(folder, 'demo/made'));
const app = makeApp(
  { application: resolve(folder, 'web/dist'), demonstration: resolve(folder, 'demo/made') },
  libraryRoutes(clips, threads),
);
const host = process.env.HOST ?? LOOPBACK;
const server = createServer(
  // A request that is not sent whole, or not taken, within this time is dropped; looked for every so often.
  { requestTimeout: 30_000, headersTimeout: 10_000, connectionsCheckingInterval: 2_000 },
  express()
    .disable('x-powered-by')
    .use(onlyFor(ownNames(host, process.env.WARPER_HOSTS)), app),
);
server.listen(port, host);
server.on('listening', () => {
  const address = server.address();
  const actual = typeof address === 'object' && address ? address.port : port;
  console.log(`Warper: http://localhost:${actual}/scene/lamp-round`);
  if (host !== LOOPBACK) console.log(`It listens on ${host}: other machines may reach it.`);
});
server.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EADDRINUSE')
    console.error(`Port ${port} is taken. Choose another one: PORT=${port + 1} npm start`);
  else if (error.code === 'EACCES')
    console.error(`Port ${port} may not be opened. Choose one above 1023: PORT=${DEFAULT_PORT} npm start`);
  else console.error(`The server cannot start: ${error.message}`);
  process.exit(1);
});
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, () => {
    server.close(() => {
      void Promise.all([clips.close(), threads.close()]).finally(() => process.exit(0));
    });
    server.closeIdleConnections();
    // What is being sent may be finished; nobody is waited for longer.
    setTimeout(() => server.closeAllConnections(), 2000).unref();
  });
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
