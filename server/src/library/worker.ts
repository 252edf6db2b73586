import type { ThreadAnswer } from '../threadAnswer';
import { answer } from '../threadAnswer';
import type { FileAt, Preparation } from './work';
import { measure, prepare } from './work';

/** The task of a worker thread. */
export default (
  task: { readonly measure: FileAt } | { readonly prepare: Preparation },
): Promise<ThreadAnswer<unknown>> =>
  answer<unknown>('measure' in task ? measure(task.measure) : prepare(task.prepare));
