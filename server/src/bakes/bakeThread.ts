import type { MessagePort } from 'node:worker_threads';
import type { BakeJobFile } from '@warper/formats';
import type { ThreadAnswer } from '../threadAnswer';
import { answer } from '../threadAnswer';
import type { BakeTask } from './bakeWork';
import { bakeSceneFile } from './bakeWork';

/** Milliseconds between two messages on how far a bake is. */
const CALM = 100;

/** The task of a worker thread: a bake, and a port that is told how far it is. */
export default function bake({
  task,
  port,
}: {
  readonly task: BakeTask;
  readonly port: MessagePort;
}): Promise<ThreadAnswer<BakeJobFile[]>> {
  let last = 0;
  const progress = (share: number): void => {
    const now = Date.now();
    if (now - last < CALM) return;
    last = now;
    port.postMessage(share);
  };
  return answer(bakeSceneFile(task, progress)).finally(() => port.close());
}
