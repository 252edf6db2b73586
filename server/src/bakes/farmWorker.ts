import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { InputError, defined } from '@warper/core';
import { UnrecoverableError, Worker } from 'bullmq';
import type { Job } from 'bullmq';
import type { Redis } from 'ioredis';
import { LRUCache } from 'lru-cache';
import { answer } from '../threadAnswer';
import type { BakeThreads } from './bakeThreads';
import { BAKE_LIMITS } from './bakes';
import type { FarmFile, FarmResult, FarmTask } from './farm';
import { PREFIX, QUEUE, connectRedis, fileKey, removedKey, sceneKey } from './farm';
import { RedisFiles } from './redisFiles';

/** Milliseconds after which a worker that no longer answers is taken for lost, and how often that is looked for. */
const LOST = 10_000;
const LOOK = 5_000;
/** How often a bake may be taken over from workers that were lost: a scene that ends them is given up. */
const MOST_LOST = 3;
/** Milliseconds between two looks at whether a bake was removed, and two notes of how far it is. */
const CALM = 250;
/** Scene files that are kept for the next bakes of them. */
const SCENES = 8;

/** Takes bakes from the queue in Redis, as many at a time as there are threads. */
export class FarmWorker {
  private readonly files: RedisFiles;
  private readonly worker: Worker<FarmTask, FarmResult>;
  private readonly scenes = new LRUCache<string, Promise<string>>({
    max: SCENES,
    dispose: (_, hash) => void rm(join(this.root, `${hash}.warper`), { force: true }),
  });

  private constructor(
    private readonly redis: Redis,
    private readonly root: string,
    private readonly threads: BakeThreads,
  ) {
    this.files = new RedisFiles(redis);
    this.worker = new Worker<FarmTask, FarmResult>(QUEUE, (job, token) => this.bake(job, defined(token)), {
      connection: redis,
      prefix: PREFIX,
      concurrency: threads.count,
      lockDuration: LOST,
      stalledInterval: LOOK,
      maxStalledCount: MOST_LOST,
    });
    this.worker.on('error', (error) => console.error(`The queue of bakes: ${error.message}`));
    this.worker.on('failed', (job, error) => {
      if (error.message === REMOVED) void job?.remove().catch(() => undefined);
      else console.error(`Bake ${job?.id ?? ''} failed: ${error.message}`);
    });
  }

  /** @param parent folder in which a folder for the work is made, and removed at the end */
  static async start(url: string, parent: string, threads: BakeThreads): Promise<FarmWorker> {
    await mkdir(parent, { recursive: true });
    const root = await mkdtemp(join(parent, 'warper-worker-'));
    return new FarmWorker(connectRedis(url, true), root, threads);
  }

  /** Takes no more bakes, and ends once those in hand are done. */
  async close(): Promise<void> {
    await this.worker.close();
    await this.threads.close();
    this.redis.disconnect();
    await rm(this.root, { recursive: true, force: true });
  }

  private async bake(job: Job<FarmTask, FarmResult>, token: string): Promise<FarmResult> {
    const id = defined(job.id);
    const stop = new AbortController();
    const folder = await mkdtemp(join(this.root, 'bake-'));
    let share = 0;
    let told = 0;
    const look = async (): Promise<void> => {
      if (await this.redis.exists(removedKey(id))) stop.abort(new Error(REMOVED));
      if (share > told) await job.updateProgress((told = share));
    };
    // Where Redis is away, or this worker ends, there is nobody to be told.
    const watching = setInterval(() => void look().catch(() => undefined), CALM);
    try {
      return await answer(
        this.make(job, token, folder, stop.signal, (s) => {
          share = s;
        }),
      );
    } catch (error) {
      if (stop.signal.aborted) throw new UnrecoverableError(REMOVED);
      throw error;
    } finally {
      clearInterval(watching);
      await rm(folder, { recursive: true, force: true });
    }
  }

  private async make(
    { id, data }: Job<FarmTask, FarmResult>,
    token: string,
    folder: string,
    signal: AbortSignal,
    progress: (share: number) => void,
  ): Promise<FarmFile[]> {
    const scene = await this.scene(data.scene);
    const task = { scene, ask: data.ask, folder, mostBytes: BAKE_LIMITS.mostBytes };
    const files = await this.threads.bake(task, progress, signal);
    const kept: FarmFile[] = [];
    for (const [i, file] of files.entries()) {
      signal.throwIfAborted();
      const key = fileKey(defined(id), token, i);
      await this.files.put(key, join(folder, file.name), BAKE_LIMITS.kept / 1000);
      kept.push({ ...file, key });
    }
    return kept;
  }

  /** The path of a scene file, fetched once for all who ask for it. */
  private async scene(hash: string): Promise<string> {
    const path = join(this.root, `${hash}.warper`);
    const fetch = async (): Promise<string> => {
      if (await this.files.take(sceneKey(hash), path, hash)) return path;
      throw new InputError('scene-gone', 'The scene has waited for too long, and is gone.', {
        hint: 'Ask for the bake again.',
      });
    };
    const cached = this.scenes.get(hash);
    if (cached) return cached;
    const fetching = fetch();
    this.scenes.set(hash, fetching);
    fetching.catch(() => this.scenes.delete(hash));
    return fetching;
  }
}

const REMOVED = 'removed';
