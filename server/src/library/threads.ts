import { InputError } from '@warper/core';
import { availableParallelism } from 'node:os';
import type { LimitFunction } from 'p-limit';
import pLimit from 'p-limit';
import { Piscina } from 'piscina';
import type { ThreadAnswer } from '../threadAnswer';
import { threadError, valueOf } from '../threadAnswer';
import type { LibraryWork } from './work';

/** Longest that a file may take to be read, and a clip to be prepared, milliseconds. */
const LONGEST = { measure: 60_000, prepare: 20_000 };
/** Megabytes that a thread may fill; a file that needs more is refused, and the server stays. */
const MOST_MEGABYTES = 1024;
/** Preparations that may wait for a thread. */
const MOST_WAITING = 64;

/** Threads, and whose turn it is to have one. */
interface Pool {
  readonly threads: Piscina;
  readonly turn: LimitFunction;
  readonly mostWaiting: number;
}

/**
 * Does the work of the library in worker threads. Work that takes too long, or fills the memory, ends with its thread and is
 * an error.
 *
 * @param file the built worker
 */
export function makeThreads(file: string): LibraryWork {
  const limits = { maxOldGenerationSizeMb: MOST_MEGABYTES };
  const maxThreads = availableParallelism();
  const makePool = (mostWaiting: number): Pool => ({
    threads: new Piscina({ filename: file, minThreads: 0, maxThreads, resourceLimits: limits }),
    turn: pLimit(maxThreads),
    mostWaiting,
  });
  // What people wait for has threads of its own, however many files are being read.
  const reading = makePool(Infinity);
  const preparing = makePool(MOST_WAITING);
  const run = async <T>(
    { threads, turn, mostWaiting }: Pool,
    task: object,
    longest: number,
    what: string,
  ): Promise<T> => {
    // Told at once: who has to wait behind so many would be told only after waiting.
    if (turn.pendingCount >= mostWaiting)
      throw new InputError('busy', 'The server has its hands full.', { hint: 'Try again in a moment.' });
    let result: ThreadAnswer<T>;
    try {
      // The time of work begins with the work, not with waiting for a thread.
      result = await turn(
        () => threads.run(task, { signal: AbortSignal.timeout(longest) }) as Promise<ThreadAnswer<T>>,
      );
    } catch (error) {
      throw threadError(error as Error & { code?: string }, longest, what);
    }
    return valueOf(result);
  };
  return {
    measure: (at) => run(reading, { measure: at }, LONGEST.measure, at.name),
    prepare: (what) => run(preparing, { prepare: what }, LONGEST.prepare, what.clipFile.name),
    close: async () => {
      await Promise.all([reading.threads.destroy(), preparing.threads.destroy()]);
    },
  };
}
