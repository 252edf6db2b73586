import { InputError } from '@warper/core';
import type { Remote } from 'comlink';
import { proxy, transfer, wrap } from 'comlink';
import type { SeamMatch } from './matchSeam';
import type {
  Answer,
  BakeRequest,
  BakeResult,
  MatchRequest,
  MotionWorker,
  ReadHow,
  ReadResult,
} from './protocol';

interface Connection {
  readonly worker: Worker;
  readonly remote: Remote<MotionWorker>;
  /** Rejects once the worker has crashed. */
  readonly crash: Promise<never>;
}

let current: Connection | null = null;

function connect(lost: () => void): Connection {
  const worker = new Worker(new URL('./motion.worker.ts', import.meta.url), { type: 'module' });
  const crash = new Promise<never>((_, reject) => {
    worker.addEventListener('error', (event) => {
      lost();
      worker.terminate();
      reject(new Error(`The motion worker stopped: ${event.message || 'unknown cause'}. Try again.`));
    });
  });
  crash.catch(() => undefined);
  return { worker, remote: wrap<MotionWorker>(worker), crash };
}

/** The worker for long work on scenes; a crashed one is replaced at the next call. */
function motionWorker(): Connection {
  current ??= connect(() => (current = null));
  return current;
}

/** Workers that read files side by side; kept for the next file when they are done. */
const MOST_READERS = Math.max(1, Math.min(3, (globalThis.navigator?.hardwareConcurrency ?? 2) - 1));
const idle: Connection[] = [];
let readers = 0;
const waiting: (() => void)[] = [];

async function takeReader(): Promise<Connection> {
  while (idle.length === 0 && readers >= MOST_READERS)
    await new Promise<void>((resolve) => waiting.push(resolve));
  const free = idle.pop();
  if (free) return free;
  readers++;
  return connect(() => undefined);
}

function giveReader(reader: Connection | null): void {
  if (reader) idle.push(reader);
  else readers--;
  waiting.shift()?.();
}

function unwrap<T>(answer: Answer<T>): T {
  if (answer.ok) return answer.value;
  const { code, message, place, hint } = answer.error;
  if (answer.error.name !== 'InputError') throw new Error(message);
  throw new InputError(code, message, { place, hint });
}

/** Bytes on their way to a worker without being copied; a part of a larger buffer is taken out of it first. */
function handOver(bytes: Uint8Array | Blob): Uint8Array | Blob {
  if (bytes instanceof Blob) return bytes;
  const own = bytes.byteLength === bytes.buffer.byteLength ? bytes : bytes.slice();
  return transfer(own, [own.buffer as ArrayBuffer]);
}

/**
 * Reads and measures a file in a worker; several are read side by side. Aborting the signal ends the worker at once, since
 * a file is read in one go, and gives the code `cancelled`.
 *
 * @param content bytes are handed over to the worker, and the result holds them again; a blob is read there
 * @param began called once a worker is free and has the file
 */
export async function readInWorker(
  content: Uint8Array | Blob,
  file: string,
  how: ReadHow = {},
  signal?: AbortSignal,
  began?: () => void,
): Promise<ReadResult> {
  const reader = await takeReader();
  began?.();
  const cancelled = new Promise<never>((_, reject) => {
    const stop = (): void => reject(new InputError('cancelled', `Reading ${file} was cancelled.`));
    if (signal?.aborted) stop();
    signal?.addEventListener('abort', stop, { once: true });
  });
  cancelled.catch(() => undefined);
  try {
    const answer = reader.remote.read(handOver(content), file, how) as Promise<Answer<ReadResult>>;
    const result = await Promise.race([answer, reader.crash, cancelled]);
    giveReader(reader);
    return unwrap(result);
  } catch (error) {
    // A worker that crashed or was stopped is not used again; an error in the file leaves it as it was.
    if (!idle.includes(reader)) {
      reader.worker.terminate();
      giveReader(null);
    }
    throw error;
  }
}

/** Bakes in the worker; aborting the signal stops it with the code `cancelled`. */
export const bakeInWorker = (
  request: BakeRequest,
  progress: (share: number) => void,
  signal: AbortSignal,
): Promise<BakeResult> =>
  longWork(signal, (remote, id) => remote.bake(id, request, proxy(progress)) as Promise<Answer<BakeResult>>);

/** Compares the moments around a seam in the worker; aborting the signal stops it with the code `cancelled`. */
export const matchInWorker = (
  request: MatchRequest,
  progress: (share: number) => void,
  signal: AbortSignal,
): Promise<SeamMatch> =>
  longWork(signal, (remote, id) => remote.match(id, request, proxy(progress)) as Promise<Answer<SeamMatch>>);

async function longWork<T>(
  signal: AbortSignal,
  start: (remote: Remote<MotionWorker>, id: string) => Promise<Answer<T>>,
): Promise<T> {
  const { remote, crash } = motionWorker();
  const id = crypto.randomUUID?.() ?? String(Math.random());
  signal.addEventListener('abort', () => void remote.cancel(id), { once: true });
  return unwrap(await Promise.race([start(remote, id), crash]));
}
