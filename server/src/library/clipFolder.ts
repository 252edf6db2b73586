import type { Stats } from 'node:fs';
import { lstat, realpath } from 'node:fs/promises';
import { relative, resolve, sep } from 'node:path';
import type { FSWatcher } from 'chokidar';
import { watch } from 'chokidar';
import pLimit from 'p-limit';
import { InputError } from '@warper/core';
import { Catalogue } from './catalogue';
import type { FileAt, LibraryWork } from './work';

/** A file that could not be taken in. */
export interface Problem {
  readonly file: string;
  readonly message: string;
}

/** Endings of files that may hold motion; what they are is told by their content. */
const MOTION = /\.(bvh|glb|gltf|vrm|vrma|usd|usda|usdc|usdz|dae)$/i;
/** Bytes above which a file is not read. */
const MOST_BYTES = 256 * 2 ** 20;
/** Files that are read side by side. */
const SIDE_BY_SIDE = 4;
/** Milliseconds that a file has to rest before it is read: it may still be on its way into the folder. */
const REST = 250;

/** A folder of clips that is watched: what comes, changes or goes is taken in by itself. */
export class ClipFolder {
  readonly catalogue = new Catalogue();
  private readonly troubles = new Map<string, string>();
  private readonly seen = new Map<string, string>();
  private readonly limit = pLimit(SIDE_BY_SIDE);
  private pending = 0;

  private constructor(
    readonly root: string,
    private readonly work: LibraryWork,
    private readonly watcher: FSWatcher,
  ) {}

  /** Begins to read and watch a folder. Links are not followed. */
  static async open(folder: string, work: LibraryWork): Promise<ClipFolder> {
    const root = await realpath(resolve(folder));
    const watcher = watch(root, {
      followSymlinks: false,
      awaitWriteFinish: { stabilityThreshold: REST, pollInterval: 100 },
      ignored: (path, stats) =>
        path !== root &&
        (/[\\/]\./.test(path.slice(root.length)) || (stats?.isFile() === true && !MOTION.test(path))),
    });
    const opened = new ClipFolder(root, work, watcher);
    watcher.on('add', (path) => opened.take(path));
    watcher.on('change', (path) => opened.take(path));
    watcher.on('unlink', (path) => opened.drop(path));
    watcher.on('error', (error) => console.error(`The folder of clips: ${(error as Error).message}`));
    await new Promise<void>((done) => watcher.once('ready', done));
    return opened;
  }

  /** How many files wait to be read. */
  get waiting(): number {
    return this.pending;
  }

  /** Files that could not be taken in, and why. */
  problems(): Problem[] {
    return [...this.troubles].map(([file, message]) => ({ file, message }));
  }

  /**
   * A file of the folder as it is now, if it is still the one that was measured.
   *
   * @throws InputError `changed` where it has gone, changed, or become a link
   */
  async check(file: FileAt): Promise<Stats> {
    const stats = await lstat(file.path).catch(() => null);
    const inside = await realpath(file.path).catch(() => '');
    if (!stats?.isFile() || inside !== file.path || stamp(stats) !== this.seen.get(file.path))
      throw new InputError('changed', `${file.name} has changed or gone.`, { hint: 'Search again.' });
    return stats;
  }

  async close(): Promise<void> {
    this.limit.clearQueue();
    await this.watcher.close();
  }

  private take(path: string): void {
    this.pending++;
    void this.limit(() => this.read(path)).finally(() => this.pending--);
  }

  private async read(path: string): Promise<void> {
    const name = relative(this.root, path).split(sep).join('/');
    try {
      const stats = await lstat(path);
      if (!stats.isFile()) return;
      if (stats.size > MOST_BYTES) throw new InputError('too-large', 'It is larger than 256 MB.');
      const measured = await this.work.measure({ path, name });
      this.seen.set(path, stamp(stats));
      this.catalogue.put({ path, name }, measured);
      this.troubles.delete(name);
    } catch (error) {
      this.catalogue.remove(path);
      this.troubles.set(name, error instanceof Error ? error.message : String(error));
    }
  }

  private drop(path: string): void {
    this.catalogue.remove(path);
    this.seen.delete(path);
    this.troubles.delete(relative(this.root, path).split(sep).join('/'));
  }
}

const stamp = (stats: Stats): string => `${stats.size} ${stats.mtimeMs}`;
