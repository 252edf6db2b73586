import { InputError } from '@warper/core';

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

/** What a thread answers about its work. */
export async function answer<T>(work: Promise<T>): Promise<ThreadAnswer<T>> {
  try {
    return { ok: true, value: await work };
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    const { code, message, place, hint } = error;
    return { ok: false, code, message, place: { ...place }, hint };
  }
}

/** The value of an answer; what a thread refused is thrown as the InputError that it was. */
export function valueOf<T>(result: ThreadAnswer<T>): T {
  if (result.ok) return result.value;
  const { code, message, place, hint } = result;
  throw new InputError(code, message, { place, hint });
}

/** What ended a thread, as somebody has to be told who asked for its work. */
export function threadError(error: Error & { code?: string }, longest: number, what: string): Error {
  if (error.name === 'AbortError' || error.name === 'TimeoutError')
    return new InputError('too-long', `${what} was not done within ${longest / 1000} s.`, {
      hint: 'Ask for a shorter part.',
    });
  if (error.code === 'ERR_WORKER_OUT_OF_MEMORY')
    return new InputError('too-large', `${what} does not fit into memory.`);
  return error;
}
