import { InputError } from '@warper/core';
import type { Remote } from 'comlink';
import { proxy, wrap } from 'comlink';
import type { SeamMatch } from './matchSeam';
import type { Answer, BakeRequest, BakeResult, MatchRequest, MotionWorker, ReadResult } from './protocol';

let current: { worker: Worker; remote: Remote<MotionWorker>; crash: Promise<never> } | null = null;

/** The motion worker; a crashed one is replaced at the next call. */
function connect(): NonNullable<typeof current> {
  if (current) return current;
  const worker = new Worker(new URL('./motion.worker.ts', import.meta.url), { type: 'module' });
  const crash = new Promise<never>((_, reject) => {
    worker.addEventListener('error', (event) => {
      current = null;
      worker.terminate();
      reject(new Error(`The motion worker stopped: ${event.message || 'unknown cause'}. Try again.`));
    });
  });
  crash.catch(() => undefined);
  current = { worker, remote: wrap<MotionWorker>(worker), crash };
  return current;
}

function unwrap<T>(answer: Answer<T>): T {
  if (answer.ok) return answer.value;
  const { code, message, place, hint } = answer.error;
  if (answer.error.name !== 'InputError') throw new Error(message);
  throw new InputError(code, message, { place, hint });
}

/** Reads and measures a file in the worker. */
export async function readInWorker(
  bytes: Uint8Array,
  file: string,
  scale?: number,
  beside?: Readonly<Record<string, Uint8Array>>,
): Promise<ReadResult> {
  const { remote, crash } = connect();
  return unwrap(
    await Promise.race([remote.read(bytes, file, scale, beside) as Promise<Answer<ReadResult>>, crash]),
  );
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
  const { remote, crash } = connect();
  const id = crypto.randomUUID?.() ?? String(Math.random());
  signal.addEventListener('abort', () => void remote.cancel(id), { once: true });
  return unwrap(await Promise.race([start(remote, id), crash]));
}
