import { InputError } from '@warper/core';
import type { BakeJob, BakeJobFile } from '@warper/formats';

/** Whether a bake will not change any more. */
export const isEnded = ({ state }: BakeJob): boolean => state === 'done' || state === 'failed';

export const noBake = (): InputError =>
  new InputError('no-bake', 'There is no such bake.', {
    hint: 'It may have been removed, or be over for long; ask for it again.',
  });

export const busy = (mostWaiting: number): InputError =>
  new InputError('busy', `${mostWaiting} bakes wait already.`, { hint: 'Try again when some are done.' });

/**
 * A file of a bake.
 *
 * @throws InputError `not-done` before the bake is, `no-bake` where it has no such file
 */
export function requireFile<T extends BakeJobFile>({ state }: BakeJob, files: readonly T[], name: string): T {
  const file = files.find((f) => f.name === name);
  if (file) return file;
  if (state === 'waiting' || state === 'running')
    throw new InputError('not-done', 'The bake is not done yet.', { hint: 'Follow its events.' });
  throw new InputError('no-bake', 'The bake has no such file.', {
    hint: `It has ${files.map((f) => `"${f.name}"`).join(', ') || 'none'}.`,
  });
}

/** What a bake tells of what went wrong; a fault of our own is told as one, without a word of the inside. */
export function jobError(error: unknown): NonNullable<BakeJob['error']> {
  if (error instanceof InputError) {
    const { code, message, place, hint } = error;
    return { code, message, place: { ...place }, hint };
  }
  console.error(error);
  return {
    code: 'failed',
    message: 'The bake failed.',
    place: {},
    hint: 'It is not the fault of the scene.',
  };
}
