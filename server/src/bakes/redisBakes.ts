import { EventEmitter } from 'node:events';
import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { InputError, defined } from '@warper/core';
import type { BakeJob, BakeJobPage } from '@warper/formats';
import { Queue, QueueEvents } from 'bullmq';
import type { Job } from 'bullmq';
import type { Redis } from 'ioredis';
import { LRUCache } from 'lru-cache';
import type { BakeAsk } from './asks';
import type { BakeLimits, BakedFileAt, Bakes } from './bakes';
import { BAKE_LIMITS } from './bakes';
import type { FarmFile, FarmResult, FarmTask } from './farm';
import { INDEX, PREFIX, QUEUE, SCENE_SECONDS, connectRedis, removedKey, sceneKey } from './farm';
import { busy, jobError, noBake, requireFile } from './jobs';
import { RedisFiles, hashFile } from './redisFiles';

/** Bakes that may wait for workers. */
const MOST_WAITING = 10_000;
/** Bytes of baked files that are kept here for who asks again. */
const KEPT_BYTES = 4 * 2 ** 30;

type FarmJob = Job<FarmTask, FarmResult>;

/** Bakes as jobs of a queue in Redis, where any number of workers take them. They outlive this process. */
export class RedisBakes implements Bakes {
  private readonly changes = new EventEmitter().setMaxListeners(0);
  private readonly files: RedisFiles;
  private readonly queue: Queue<FarmTask, FarmResult>;
  private readonly events: QueueEvents;
  /** Sizes of the files that are here, by hash. */
  private readonly here = new LRUCache<string, number>({
    maxSize: KEPT_BYTES,
    sizeCalculation: (bytes) => bytes + 1,
    dispose: (_, sha256) => void rm(join(this.root, sha256), { force: true }),
  });

  private constructor(
    private readonly redis: Redis,
    private readonly patient: Redis,
    private readonly root: string,
    private readonly limits: BakeLimits,
  ) {
    this.files = new RedisFiles(redis);
    this.queue = new Queue(QUEUE, { connection: redis, prefix: PREFIX, skipWaitingForReady: true });
    this.events = new QueueEvents(QUEUE, { connection: patient, prefix: PREFIX });
    this.queue.on('error', () => undefined);
    this.events.on('error', () => undefined);
    const tell = ({ jobId }: { jobId: string }): void => void this.changes.emit(jobId);
    for (const event of ['active', 'progress', 'completed', 'failed', 'removed'] as const)
      this.events.on(event, tell);
  }

  /** @param parent folder in which a folder for files on their way is made, and removed at the end */
  static async open(
    url: string,
    parent: string,
    limits: BakeLimits = { ...BAKE_LIMITS, mostWaiting: MOST_WAITING, mostKept: MOST_WAITING },
  ): Promise<RedisBakes> {
    await mkdir(parent, { recursive: true });
    const root = await mkdtemp(join(parent, 'warper-bakes-'));
    return new RedisBakes(connectRedis(url, false), connectRedis(url, true), root, limits);
  }

  create(scene: string, ask: BakeAsk): Promise<BakeJob> {
    return reach(async () => {
      try {
        if ((await this.queue.getWaitingCount()) >= this.limits.mostWaiting)
          throw busy(this.limits.mostWaiting);
        const hash = await hashFile(scene);
        const key = sceneKey(hash);
        if (!(await this.files.keep(key, SCENE_SECONDS))) await this.files.put(key, scene, SCENE_SECONDS);
        const kept = { age: this.limits.kept / 1000, count: this.limits.mostKept };
        const id = randomUUID();
        await this.redis.zadd(INDEX, Date.now(), id);
        const job = await this.queue.add(
          'bake',
          { scene: hash, ask },
          { jobId: id, removeOnComplete: kept, removeOnFail: kept },
        );
        return await this.stateOf(job);
      } finally {
        await rm(scene, { force: true });
      }
    });
  }

  list(skip: number, count: number): Promise<BakeJobPage> {
    return reach(async () => {
      await this.forgetGone();
      const ids = await this.redis.zrevrange(INDEX, skip, skip + count - 1);
      const jobs = await Promise.all(ids.map((id) => this.find(id).catch(() => null)));
      return { total: await this.redis.zcard(INDEX), bakes: jobs.filter((job) => job !== null) };
    });
  }

  find(id: string): Promise<BakeJob> {
    return reach(async () => this.stateOf(await this.job(id)));
  }

  remove(id: string): Promise<void> {
    return reach(async () => {
      const job = await this.job(id);
      await this.redis.set(removedKey(id), '1', 'EX', SCENE_SECONDS);
      await this.redis.zrem(INDEX, id);
      await this.files.drop(filesOf(job).map((f) => f.key));
      // One that somebody is at is left to them: they see that it was removed.
      await job.remove().catch(() => undefined);
      this.changes.emit(id);
    });
  }

  file(id: string, name: string): Promise<BakedFileAt> {
    return reach(async () => {
      const job = await this.job(id);
      const { key, type, sha256, bytes } = requireFile(await this.stateOf(job), filesOf(job), name);
      const path = join(this.root, sha256);
      if (!existsSync(path) && !(await this.files.take(key, path, sha256))) throw noBake();
      this.here.set(sha256, bytes);
      return { path, type, sha256 };
    });
  }

  watch(id: string, onChange: () => void): () => void {
    this.changes.on(id, onChange);
    return () => void this.changes.off(id, onChange);
  }

  async close(): Promise<void> {
    await Promise.allSettled([this.queue.close(), this.events.close()]);
    this.redis.disconnect();
    this.patient.disconnect();
    await rm(this.root, { recursive: true, force: true });
  }

  private async job(id: string): Promise<FarmJob> {
    const [job, isRemoved] = await Promise.all([this.queue.getJob(id), this.redis.exists(removedKey(id))]);
    if (!job || isRemoved) throw noBake();
    return job;
  }

  /** Leaves what the queue has let go of since out of the list. */
  private async forgetGone(): Promise<void> {
    const old = await this.redis.zrangebyscore(INDEX, 0, Date.now() - this.limits.kept);
    for (const id of old) if (!(await this.queue.getJob(id))) await this.redis.zrem(INDEX, id);
  }

  private async stateOf(job: FarmJob): Promise<BakeJob> {
    const state = await job.getState();
    const share = typeof job.progress === 'number' ? job.progress : 0;
    const base = { id: defined(job.id), share, created: new Date(job.timestamp).toISOString() };
    if (state === 'completed') {
      // What was fetched before it was done has no result yet.
      const result = job.returnvalue ?? (await this.queue.getJob(base.id))?.returnvalue;
      if (result?.ok) {
        const files = result.value.map(({ key: _key, ...file }) => file);
        return { ...base, state: 'done', share: 1, files, error: null };
      }
      if (result) {
        const { ok: _ok, ...error } = result;
        return { ...base, state: 'failed', files: [], error };
      }
    }
    if (state === 'failed' || state === 'completed') {
      const error = new InputError('failed', 'The bake failed, or its workers were lost again and again.', {
        hint: 'Ask for it again; the workers say more.',
      });
      return { ...base, state: 'failed', files: [], error: jobError(error) };
    }
    return { ...base, state: state === 'active' ? 'running' : 'waiting', files: [], error: null };
  }
}

const filesOf = ({ returnvalue }: FarmJob): readonly FarmFile[] =>
  (returnvalue as FarmResult | null)?.ok ? (returnvalue as { value: readonly FarmFile[] }).value : [];

/** Does what needs the queue; where that is away, says so. */
async function reach<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    const { name, code, message } = error as Error & { code?: string };
    const isAway =
      name === 'MaxRetriesPerRequestError' ||
      code === 'ECONNREFUSED' ||
      /connection is closed/i.test(message);
    if (!isAway) throw error;
    throw new InputError('no-queue', 'The queue of bakes cannot be reached.', {
      hint: 'Try again in a moment.',
      cause: error,
    });
  }
}
