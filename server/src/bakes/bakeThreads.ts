import { availableParallelism } from 'node:os';
import { MessageChannel } from 'node:worker_threads';
import type { BakeJobFile } from '@warper/formats';
import { Piscina } from 'piscina';
import type { ThreadAnswer } from '../threadAnswer';
import { threadError, valueOf } from '../threadAnswer';
import type { BakeTask } from './bakeWork';
import { bakeSceneFile } from './bakeWork';

/** Bakes, wherever it is done. */
export interface BakeThreads {
  /** Bakes that go on side by side. */
  readonly count: number;
  /**
   * @param signal breaks the bake off; it is then rejected with the signal's reason
   * @throws InputError where the scene is at fault, takes too long or too much memory
   */
  bake(task: BakeTask, progress: (share: number) => void, signal: AbortSignal): Promise<BakeJobFile[]>;
  close(): Promise<void>;
}

/** Megabytes that a thread may fill; a bake that needs more fails, and the others go on. */
const MOST_MEGABYTES = 4096;

/**
 * Threads for bakes: what takes too long or fills the memory ends with its thread.
 *
 * @param file the built thread
 * @param count bakes side by side; one a core by default
 * @param longest milliseconds that a bake may take
 */
export function makeBakeThreads(file: string, longest: number, count = availableParallelism()): BakeThreads {
  const pool = new Piscina({
    filename: file,
    minThreads: 0,
    maxThreads: count,
    // A scene's clips are a good while in the making, and a thread that is warm does the next one sooner.
    idleTimeout: 30_000,
    resourceLimits: { maxOldGenerationSizeMb: MOST_MEGABYTES },
  });
  return {
    count,
    async bake(task, progress, signal) {
      const { port1, port2 } = new MessageChannel();
      port1.on('message', progress);
      port1.unref();
      let result: ThreadAnswer<BakeJobFile[]>;
      try {
        result = (await pool.run(
          { task, port: port2 },
          { signal: AbortSignal.any([signal, AbortSignal.timeout(longest)]), transferList: [port2] },
        )) as typeof result;
      } catch (error) {
        signal.throwIfAborted();
        throw threadError(error as Error, longest, 'The bake');
      } finally {
        port1.close();
      }
      return valueOf(result);
    },
    close: () => pool.destroy(),
  };
}

/** Bakes where it is asked for, for tests. */
export const bakesHere = (count = 1): BakeThreads => ({
  count,
  bake: async (task, progress, signal) => {
    const files = await bakeSceneFile(task, (share) => {
      signal.throwIfAborted();
      progress(share);
    });
    signal.throwIfAborted();
    return files;
  },
  close: async () => undefined,
});
