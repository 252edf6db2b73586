import type { BakeJobFile } from '@warper/formats';
import { Redis } from 'ioredis';
import type { ThreadAnswer } from '../threadAnswer';
import type { BakeAsk } from './asks';

/** Name of the queue, and what all keys in Redis begin with. */
export const QUEUE = 'bakes';
export const PREFIX = 'warper';

/** A bake as it waits in the queue. */
export interface FarmTask {
  /** SHA-256 of the scene file, under which it is kept. */
  readonly scene: string;
  readonly ask: BakeAsk;
}

/** A baked file, and the key under which it is kept. */
export interface FarmFile extends BakeJobFile {
  readonly key: string;
}

/** What a worker answers. Bad input is an answer as well: it would be no better elsewhere. */
export type FarmResult = ThreadAnswer<readonly FarmFile[]>;

/** Seconds that a scene file is kept behind the last time that somebody asked for a bake of it. */
export const SCENE_SECONDS = 48 * 3600;

export const sceneKey = (sha256: string): string => `${PREFIX}:scene:${sha256}`;
/** Who bakes has a token, so that one who was taken for lost writes beside the one who took over. */
export const fileKey = (id: string, token: string, index: number): string =>
  `${PREFIX}:file:${id}:${token}:${index}`;
/** There for bakes that were removed while somebody was at them. */
export const removedKey = (id: string): string => `${PREFIX}:removed:${id}`;
/** Ids of bakes by the time at which they were asked for. */
export const INDEX = `${PREFIX}:index`;

/**
 * A connection to Redis.
 *
 * @param patient waits for a server that is away, however long; else what is asked for fails soon
 */
export function connectRedis(url: string, patient: boolean): Redis {
  const redis = new Redis(url, {
    maxRetriesPerRequest: patient ? null : 1,
    retryStrategy: (tries) => Math.min(tries * 200, 2000),
  });
  let isAway = false;
  redis.on('error', (error) => {
    if (!isAway)
      console.error(`Redis at ${redisPlace(url)} cannot be reached: ${error.message || error.name}`);
    isAway = true;
  });
  redis.on('ready', () => (isAway = false));
  return redis;
}

/** Where a Redis is, without the password. */
export function redisPlace(url: string): string {
  try {
    const { host, pathname } = new URL(url);
    return host + pathname;
  } catch {
    return 'the address given';
  }
}
