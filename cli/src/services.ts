import { existsSync } from 'node:fs';
import { fileURLToPath, pathToFileURL } from 'node:url';
import type { Command } from 'commander';
import { InvalidArgumentError } from 'commander';
import { InputError } from '@warper/core';

/** Options of `serve` and `worker`. */
interface ServiceOptions {
  readonly json?: boolean;
  readonly port?: string;
  readonly host?: string;
  readonly library?: string;
  readonly redis?: string;
  readonly jobs?: string;
}

const within =
  (least: number, most: number) =>
  (text: string): string => {
    const value = Number(text);
    if (!/^\d+$/.test(text) || value < least || value > most)
      throw new InvalidArgumentError(`Expected a whole number from ${least} to ${most}.`);
    return text;
  };

const redisAddress = (text: string): string => {
  if (!/^rediss?:\/\//.test(text) || !URL.canParse(text))
    throw new InvalidArgumentError('Expected an address such as redis://localhost:6379.');
  return text;
};

const JOBS = 'bakes at a time, one a core by default';

/** The commands that go on until they are stopped: the server, and workers behind its queue. */
export function addServices(command: (usage: string, description: string) => Command): void {
  command('serve', 'Serves the application, a library of clips, and bakes as jobs.')
    .option('--port <port>', 'port to listen on, 4173 by default', within(0, 65535))
    .option('--host <address>', 'address to listen on; only this machine by default')
    .option('--library <folder>', "folder of clips, the demonstration's by default")
    .option('--redis <address>', 'queue of bakes for workers, REDIS_URL by default', redisAddress)
    .option('--jobs <n>', JOBS, within(1, 256))
    .action((o: ServiceOptions) => startBuilt('server', o));
  command('worker', 'Takes bakes from the queue of a server, and bakes them.')
    .option('--redis <address>', 'where the queue is, REDIS_URL by default', redisAddress)
    .option('--jobs <n>', JOBS, within(1, 256))
    .action(async (o: ServiceOptions) => {
      if (!(o.redis ?? process.env.REDIS_URL))
        throw new InputError('no-redis', 'A worker takes bakes from Redis, and none is given.', {
          hint: 'warper worker --redis redis://host:6379, or REDIS_URL.',
        });
      await startBuilt('worker', o);
    });
}

/** Starts what the server's package has built, in this process: both speak through the environment. */
async function startBuilt(name: 'server' | 'worker', o: ServiceOptions): Promise<void> {
  const at = (path: string): string => fileURLToPath(new URL(`../../${path}`, import.meta.url));
  const built = at(`server/dist/${name}.mjs`);
  if (!existsSync(built))
    throw new InputError('not-built', 'The server is not built.', { hint: 'npm run build' });
  const settings = {
    PORT: o.port,
    HOST: o.host,
    WARPER_LIBRARY: o.library,
    REDIS_URL: o.redis,
    WARPER_JOBS: o.jobs,
    WARPER_JSON: o.json === true ? '1' : undefined,
    WARPER_ROOT: process.env.WARPER_ROOT ?? at(''),
  };
  for (const [key, value] of Object.entries(settings)) if (value !== undefined) process.env[key] = value;
  await import(pathToFileURL(built).href);
}
