import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { open, rename, rm } from 'node:fs/promises';
import type { Redis } from 'ioredis';

/** Bytes of a file that are sent at once. */
const PART = 2 ** 20;
/** Seconds that a file may be on its way before what is there of it goes. */
const ON_ITS_WAY = 600;

/** Files in Redis: a list of their parts each, which is there whole or not at all. */
export class RedisFiles {
  constructor(private readonly redis: Redis) {}

  /** Puts a file there for so many seconds. */
  async put(key: string, path: string, seconds: number): Promise<void> {
    const draft = `${key}:${randomUUID()}`;
    // A list cannot be empty, so there is a head without meaning.
    await this.redis.rpush(draft, 'file');
    await this.redis.expire(draft, ON_ITS_WAY);
    for await (const part of createReadStream(path, { highWaterMark: PART }))
      await this.redis.rpush(draft, part as Buffer);
    await this.redis.multi().rename(draft, key).expire(key, seconds).exec();
  }

  /** Keeps a file for so many seconds from now on; whether it is there. */
  readonly keep = async (key: string, seconds: number): Promise<boolean> =>
    (await this.redis.expire(key, seconds)) === 1;

  /**
   * Writes a file to a path, where it appears whole.
   *
   * @param sha256 of its content, in hex
   * @returns false where it is not there
   * @throws Error where its content is another one
   */
  async take(key: string, path: string, sha256: string): Promise<boolean> {
    const parts = (await this.redis.llen(key)) - 1;
    if (parts < 0) return false;
    const draft = `${path}.${randomUUID()}.part`;
    const handle = await open(draft, 'wx');
    const sum = createHash('sha256');
    try {
      for (let i = 1; i <= parts; i++) {
        const part = await this.redis.lindexBuffer(key, i);
        if (part === null) return false;
        sum.update(part);
        await handle.writeFile(part);
      }
      if (sum.digest('hex') !== sha256) throw new Error(`${key} is not what was put there.`);
      await rename(draft, path);
      return true;
    } finally {
      await handle.close();
      await rm(draft, { force: true });
    }
  }

  async drop(keys: readonly string[]): Promise<void> {
    if (keys.length > 0) await this.redis.unlink(...keys);
  }
}

/** SHA-256 of a file's content, in hex. */
export async function hashFile(path: string): Promise<string> {
  const sum = createHash('sha256');
  for await (const part of createReadStream(path)) sum.update(part as Buffer);
  return sum.digest('hex');
}
