// A bake farm on this machine, for tests and benchmarks: Debian's Redis, a server, and workers, each a process of its own.
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Debian's Redis, unless another one is named. */
export const REDIS_SERVER = process.env.REDIS_SERVER ?? '/usr/bin/redis-server';

/** Where it is run from, as every script is. */
const root = process.cwd();

/** A port that nothing listens on now. */
const freePort = () =>
  new Promise((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => done(port));
    });
  });

const ended = (child) =>
  child.exitCode !== null || child.signalCode !== null
    ? Promise.resolve()
    : new Promise((done) => child.once('exit', done));

/** Starts Redis, which keeps nothing, and a server behind it. */
export async function startFarm() {
  const folder = mkdtempSync(join(tmpdir(), 'warper-farm-'));
  const port = await freePort();
  const startRedis = async () => {
    const redis = spawn(
      REDIS_SERVER,
      ['--port', String(port), '--bind', '127.0.0.1', '--dir', folder, '--save', '', '--appendonly', 'no'],
      { stdio: ['ignore', 'pipe', 'inherit'] },
    );
    await new Promise((ready, fail) => {
      redis.stdout.on('data', (text) => {
        if (String(text).includes('Ready to accept connections')) ready();
      });
      redis.on('exit', () => fail(new Error('Redis stopped.')));
      redis.on('error', fail);
    });
    return redis;
  };
  let redis = await startRedis();
  const start = async (args, env) => {
    const child = spawn(process.execPath, ['cli/bin/warper.mjs', ...args, '--json'], {
      cwd: root,
      env: { ...process.env, REDIS_URL: `redis://127.0.0.1:${port}`, WARPER_BAKES: folder, ...env },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    const told = await new Promise((ready, fail) => {
      child.stdout.once('data', (text) => ready(JSON.parse(String(text))));
      child.on('exit', () => fail(new Error(`warper ${args[0]} stopped.`)));
    });
    return { child, told };
  };
  const server = await start(['serve', '--port', '0', '--library', folder], {});
  const workers = [];
  return {
    /** Where the server's service is. */
    api: `${server.told.url}/api`,
    /** Starts a worker; resolves to its process once it takes bakes. */
    async startWorker() {
      const { child } = await start(['worker', '--jobs', '1'], {});
      workers.push(child);
      return child;
    },
    /** Ends Redis, and resolves to what starts it anew, empty. */
    async stopRedis() {
      redis.kill('SIGKILL');
      await ended(redis);
      return async () => void (redis = await startRedis());
    },
    async stop() {
      for (const child of [...workers, server.child]) child.kill('SIGTERM');
      await Promise.all([...workers, server.child].map(ended));
      redis.kill();
      await ended(redis);
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Asks the service for a bake of a scene file; resolves to its first state. */
export async function askForBake(api, scene, query = '') {
  const response = await fetch(`${api}/bakes?${query}`, {
    method: 'POST',
    headers: { 'content-type': 'application/zip' },
    body: scene,
  });
  const value = await response.json();
  if (response.status !== 201) throw new Error(JSON.stringify(value));
  return value;
}

/** Runs the command line as its own process; its text. */
export function warper(...args) {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['cli/bin/warper.mjs', ...args], {
    cwd: root,
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(stderr);
  return stdout;
}
