import type { ContinuityItem, Edit, Mend, Scene } from '@warper/core';
import { InputError } from '@warper/core';
import type { Remote } from 'comlink';
import { proxy, transfer, wrap } from 'comlink';
import type {
  Answer,
  BakeRequest,
  BakeResult,
  BakeShare,
  ChoiceRequest,
  FollowRequest,
  Following,
  MendRequest,
  MotionWorker,
  ReadHow,
  ReadResult,
  StudyRequest,
} from './protocol';
import type { SeamStudy } from './studySeam';

interface Connection {
  readonly worker: Worker;
  readonly remote: Remote<MotionWorker>;
  /** Rejects once the worker has crashed. */
  readonly crash: Promise<never>;
}

/** Workers that read files side by side; kept for the next file when they are done. */
const MOST_READERS = Math.max(1, Math.min(3, (globalThis.navigator?.hardwareConcurrency ?? 2) - 1));

/** The page's side of its workers: one for long work on scenes, a few that read files. */
export class MotionClient {
  private desk: Connection | null = null;
  private readonly idle: Connection[] = [];
  private readers = 0;
  private readonly waiting: (() => void)[] = [];

  /** @param spawn starts a worker that exposes a `MotionWorker` */
  constructor(private readonly spawn: () => Worker) {}

  /**
   * Reads and measures a file in a worker; several are read side by side. Aborting the signal ends the worker at once, since
   * a file is read in one go, and gives the code `cancelled`.
   *
   * @param content bytes are handed over to the worker, and the result holds them again; a blob is read there
   * @param began called once a worker is free and has the file
   */
  async read(
    content: Uint8Array | Blob,
    file: string,
    how: ReadHow = {},
    signal?: AbortSignal,
    began?: () => void,
  ): Promise<ReadResult> {
    const reader = await this.takeReader();
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
      this.giveReader(reader);
      return unwrap(result);
    } catch (error) {
      // A worker that crashed or was stopped is not used again; an error in the file leaves it as it was.
      if (!this.idle.includes(reader)) {
        reader.worker.terminate();
        this.giveReader(null);
      }
      throw error;
    }
  }

  /** Bakes; aborting the signal stops it with the code `cancelled`. */
  bake(request: BakeRequest, progress: BakeShare, signal: AbortSignal): Promise<BakeResult> {
    return this.longWork(
      signal,
      (remote, id) => remote.bake(id, request, proxy(progress)) as Promise<Answer<BakeResult>>,
    );
  }

  /** Studies a seam; aborting the signal stops it with the code `cancelled`. */
  study(request: StudyRequest, signal: AbortSignal): Promise<SeamStudy> {
    return this.longWork(
      signal,
      (remote, id) =>
        remote.study(
          id,
          request,
          proxy(() => undefined),
        ) as Promise<Answer<SeamStudy>>,
    );
  }

  /** Chooses joins; aborting the signal stops it with the code `cancelled`. */
  choose(
    request: ChoiceRequest,
    progress: (share: number) => void,
    signal: AbortSignal,
  ): Promise<readonly Edit[]> {
    return this.longWork(
      signal,
      (remote, id) => remote.choose(id, request, proxy(progress)) as Promise<Answer<readonly Edit[]>>,
    );
  }

  /** Finds a mend; aborting the signal stops it with the code `cancelled`. */
  mend(
    request: MendRequest,
    progress: (share: number) => void,
    signal: AbortSignal,
  ): Promise<readonly Mend[]> {
    return this.longWork(
      signal,
      (remote, id) => remote.mend(id, request, proxy(progress)) as Promise<Answer<readonly Mend[]>>,
    );
  }

  /** Ranks clips by how well they follow a segment. */
  follow(request: FollowRequest): Promise<readonly Following[]> {
    return this.longWork(
      new AbortController().signal,
      (remote) => remote.follow(request) as Promise<Answer<readonly Following[]>>,
    );
  }

  /** Measures a scene. */
  continuity(scene: Scene): Promise<readonly ContinuityItem[]> {
    return this.longWork(
      new AbortController().signal,
      (remote) => remote.continuity(scene) as Promise<Answer<readonly ContinuityItem[]>>,
    );
  }

  private async longWork<T>(
    signal: AbortSignal,
    start: (remote: Remote<MotionWorker>, id: string) => Promise<Answer<T>>,
  ): Promise<T> {
    // A crashed one is replaced at the next call.
    const { remote, crash } = (this.desk ??= this.connect(() => (this.desk = null)));
    const id = crypto.randomUUID?.() ?? String(Math.random());
    signal.addEventListener('abort', () => void remote.cancel(id), { once: true });
    return unwrap(await Promise.race([start(remote, id), crash]));
  }

  private async takeReader(): Promise<Connection> {
    while (this.idle.length === 0 && this.readers >= MOST_READERS)
      await new Promise<void>((resolve) => this.waiting.push(resolve));
    const free = this.idle.pop();
    if (free) return free;
    this.readers++;
    return this.connect(() => undefined);
  }

  private giveReader(reader: Connection | null): void {
    if (reader) this.idle.push(reader);
    else this.readers--;
    this.waiting.shift()?.();
  }

  private connect(lost: () => void): Connection {
    const worker = this.spawn();
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
