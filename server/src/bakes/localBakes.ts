import { EventEmitter } from 'node:events';
import { randomUUID } from 'node:crypto';
import { mkdir, mkdtemp, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { BakeJob, BakeJobPage } from '@warper/formats';
import pLimit from 'p-limit';
import type { LimitFunction } from 'p-limit';
import type { BakeAsk } from './asks';
import type { BakeThreads } from './bakeThreads';
import type { BakeLimits, BakedFileAt, Bakes } from './bakes';
import { BAKE_LIMITS } from './bakes';
import { busy, isEnded, jobError, noBake, requireFile } from './jobs';

interface Entry {
  job: BakeJob;
  readonly folder: string;
  readonly stop: AbortController;
  /** Settled once nothing works on it any more. */
  ended: Promise<void>;
  forget?: NodeJS.Timeout;
}

/** Bakes as jobs of this process. They end with it. */
export class LocalBakes implements Bakes {
  /** In the order in which they were asked for. */
  private readonly entries = new Map<string, Entry>();
  private readonly changes = new EventEmitter().setMaxListeners(0);
  private readonly turn: LimitFunction;

  private constructor(
    private readonly root: string,
    private readonly threads: BakeThreads,
    private readonly limits: BakeLimits,
  ) {
    this.turn = pLimit(threads.count);
  }

  /** @param parent folder in which a folder of its own is made, and removed at the end */
  static async open(parent: string, threads: BakeThreads, limits = BAKE_LIMITS): Promise<LocalBakes> {
    await mkdir(parent, { recursive: true });
    return new LocalBakes(await mkdtemp(join(parent, 'warper-bakes-')), threads, limits);
  }

  async create(scene: string, ask: BakeAsk): Promise<BakeJob> {
    if (this.turn.pendingCount >= this.limits.mostWaiting) {
      await rm(scene, { force: true });
      throw busy(this.limits.mostWaiting);
    }
    const id = randomUUID();
    const folder = join(this.root, id);
    await mkdir(folder);
    await rename(scene, join(folder, SCENE));
    const created = new Date().toISOString();
    const entry: Entry = {
      job: { id, state: 'waiting', share: 0, created, files: [], error: null },
      folder,
      stop: new AbortController(),
      ended: Promise.resolve(),
    };
    this.entries.set(id, entry);
    entry.ended = this.turn(() => this.run(entry, ask));
    return entry.job;
  }

  async list(skip: number, count: number): Promise<BakeJobPage> {
    const jobs = [...this.entries.values()].map((e) => e.job).reverse();
    return { total: jobs.length, bakes: jobs.slice(skip, skip + count) };
  }

  readonly find = async (id: string): Promise<BakeJob> => this.entry(id).job;

  async remove(id: string): Promise<void> {
    const entry = this.entry(id);
    this.entries.delete(id);
    clearTimeout(entry.forget);
    entry.stop.abort();
    this.changes.emit(id);
    await entry.ended;
    await rm(entry.folder, { recursive: true, force: true });
  }

  async file(id: string, name: string): Promise<BakedFileAt> {
    const { job, folder } = this.entry(id);
    const { type, sha256 } = requireFile(job, job.files, name);
    return { path: join(folder, name), type, sha256 };
  }

  watch(id: string, onChange: () => void): () => void {
    this.changes.on(id, onChange);
    return () => void this.changes.off(id, onChange);
  }

  async close(): Promise<void> {
    await Promise.all([...this.entries.keys()].map((id) => this.remove(id).catch(() => undefined)));
    await this.threads.close();
    await rm(this.root, { recursive: true, force: true });
  }

  private entry(id: string): Entry {
    const entry = this.entries.get(id);
    if (!entry) throw noBake();
    return entry;
  }

  private async run(entry: Entry, ask: BakeAsk): Promise<void> {
    const { folder, stop } = entry;
    if (stop.signal.aborted) return;
    const scene = join(folder, SCENE);
    this.change(entry, { state: 'running' });
    try {
      const task = { scene, ask, folder, mostBytes: this.limits.mostBytes };
      const files = await this.threads.bake(task, (share) => this.change(entry, { share }), stop.signal);
      this.change(entry, { state: 'done', share: 1, files });
    } catch (error) {
      if (stop.signal.aborted) return;
      this.change(entry, { state: 'failed', error: jobError(error) });
      await rm(folder, { recursive: true, force: true });
    }
    await rm(scene, { force: true });
    this.keepFor(entry);
  }

  /** Sees to it that an ended bake goes by itself, and earlier where many have ended. */
  private keepFor(entry: Entry): void {
    const { kept, mostKept } = this.limits;
    entry.forget = setTimeout(() => void this.remove(entry.job.id).catch(() => undefined), kept).unref();
    const over = [...this.entries.values()].filter((e) => isEnded(e.job)).slice(0, -mostKept);
    for (const { job } of over) void this.remove(job.id).catch(() => undefined);
  }

  private change(entry: Entry, what: Partial<BakeJob>): void {
    entry.job = { ...entry.job, ...what };
    if (!entry.stop.signal.aborted) this.changes.emit(entry.job.id);
  }
}

const SCENE = '.scene.warper';
