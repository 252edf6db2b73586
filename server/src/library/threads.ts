import { InputError } from '@warper/core';
import { Piscina } from 'piscina';
import type { LibraryWork } from './work';
import type { ThreadAnswer } from './worker';

/** Longest that a file may take to be read, and a clip to be prepared, milliseconds. */
const LONGEST = { measure: 60_000, prepare: 20_000 };
/** Megabytes that a thread may fill; a file that needs more is refused, and the server stays. */
const MOST_MEGABYTES = 1024;
/** Preparations that may wait for a thread. */
const MOST_WAITING = 64;

/**
 * Does the work of the library in worker threads. Work that takes too long, or fills the memory, ends with its thread and is
 * an error.
 *
 * @param file the built worker
 */
export function makeThreads(file: string): LibraryWork {
  const limits = { maxOldGenerationSizeMb: MOST_MEGABYTES };
  // What people wait for has a thread of its own, however many files are being read.
  const reading = new Piscina({ filename: file, minThreads: 0, resourceLimits: limits });
  const preparing = new Piscina({
    filename: file,
    minThreads: 0,
    maxQueue: MOST_WAITING,
    resourceLimits: limits,
  });
  const run = async <T>(pool: Piscina, task: object, longest: number, what: string): Promise<T> => {
    let result: ThreadAnswer<T>;
    try {
      result = (await pool.run(task, { signal: AbortSignal.timeout(longest) })) as ThreadAnswer<T>;
    } catch (error) {
      throw asInputError(error as Error & { code?: string }, longest, what);
    }
    if (result.ok) return result.value;
    const { code, message, place, hint } = result;
    throw new InputError(code, message, { place, hint });
  };
  return {
    measure: (at) => run(reading, { measure: at }, LONGEST.measure, at.name),
    prepare: (what) => run(preparing, { prepare: what }, LONGEST.prepare, what.clipFile.name),
    close: async () => {
      await Promise.all([reading.destroy(), preparing.destroy()]);
    },
  };
}

function asInputError(error: Error & { code?: string }, longest: number, what: string): Error {
  if (error.name === 'AbortError' || error.name === 'TimeoutError')
    return new InputError('too-long', `${what} was not done within ${longest / 1000} s.`, {
      hint: 'Ask for a shorter part.',
    });
  if (error.code === 'ERR_WORKER_OUT_OF_MEMORY')
    return new InputError('too-large', `${what} does not fit into memory.`);
  if (/task queue/i.test(error.message))
    return new InputError('busy', 'The server has its hands full.', { hint: 'Try again in a moment.' });
  return error;
}
