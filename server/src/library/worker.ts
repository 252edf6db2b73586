import { InputError } from '@warper/core';
import type { FileAt, Preparation } from './work';
import { measure, prepare } from './work';

/** An answer of a worker thread; an error keeps its code and place, which would be lost on the way. */
export type ThreadAnswer<T> =
  | { readonly ok: true; readonly value: T }
  | {
      readonly ok: false;
      readonly code: string;
      readonly message: string;
      readonly place: Record<string, unknown>;
      readonly hint: string;
    };

async function answer<T>(work: Promise<T>): Promise<ThreadAnswer<T>> {
  try {
    return { ok: true, value: await work };
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    const { code, message, place, hint } = error;
    return { ok: false, code, message, place: { ...place }, hint };
  }
}

/** The task of a worker thread. */
export default (
  task: { readonly measure: FileAt } | { readonly prepare: Preparation },
): Promise<ThreadAnswer<unknown>> =>
  answer<unknown>('measure' in task ? measure(task.measure) : prepare(task.prepare));
