import type { BakeJob } from '@warper/formats';
import { createSession } from 'better-sse';
import type { Request, Response } from 'express';
import type { Bakes } from './bakes';
import { isEnded } from './jobs';

/** Milliseconds between two events of one bake. */
const CALM = 200;

/**
 * Tells how far a bake is until it has ended, as server-sent events (WHATWG HTML, 9.2): `bake` with the whole state each time, or
 * `removed`.
 *
 * @throws InputError `no-bake` where there is none
 */
export async function sendEvents(bakes: Bakes, id: string, req: Request, res: Response): Promise<void> {
  const first = await bakes.find(id);
  if (req.method === 'HEAD') return void res.type('text/event-stream').end();
  const session = await createSession(req, res);
  await new Promise<void>((done) => {
    let timer: NodeJS.Timeout | undefined;
    let hasEnded = false;
    let last: BakeJob | undefined;
    const end = (): void => {
      hasEnded = true;
      stop();
      clearTimeout(timer);
      res.end();
      done();
    };
    const send = (job: BakeJob | null): void => {
      if (hasEnded || !session.isConnected) return;
      if (job?.share === last?.share && job?.state === last?.state) return;
      last = job ?? undefined;
      if (job === null) session.push({ id }, 'removed');
      else session.push(job, 'bake');
      if (job === null || isEnded(job)) end();
    };
    const look = (): Promise<void> => bakes.find(id).then(send, () => send(null));
    const stop = bakes.watch(id, () => {
      timer ??= setTimeout(() => {
        timer = undefined;
        void look();
      }, CALM);
    });
    session.once('disconnected', end);
    send(first);
    // It may have ended before anybody watched.
    void look();
  });
}
