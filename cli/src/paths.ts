import { mkdir, readFile, realpath, rename, rm, stat, writeFile } from 'node:fs/promises';
import { basename, dirname, isAbsolute, join, relative, resolve, sep } from 'node:path';
import { InputError } from '@warper/core';

/** Largest file that is read. */
const MOST_BYTES = 2_000_000_000;

/** Reads a file that the user named. */
export async function readInput(path: string): Promise<Uint8Array> {
  try {
    const stats = await stat(path);
    // A device or pipe may never end.
    if (!stats.isFile() && !stats.isDirectory()) throw new Error('it is no file');
    if (stats.size > MOST_BYTES) throw new Error(`it has ${stats.size} bytes, which is too many`);
    return new Uint8Array(await readFile(path));
  } catch (cause) {
    throw new InputError('no-file', `${path} cannot be read: ${reason(cause)}.`, {
      place: { file: path },
      cause,
    });
  }
}

const reason = (cause: unknown): string => {
  const { code } = cause as NodeJS.ErrnoException;
  return code === 'ENOENT'
    ? 'there is no such file'
    : code === 'EISDIR'
      ? 'it is a folder'
      : (cause as Error).message;
};

/** Reads files that a sheet names: relative to it, never out of its folder, neither by path nor by link. */
export function besideSheet(sheet: string): (path: string) => Promise<Uint8Array> {
  const folder = dirname(resolve(sheet));
  return async (path) => {
    const outside = (): never => {
      throw new InputError('outside', `${path} is outside the folder of the sheet.`, {
        place: { file: sheet },
        hint: 'Put the file into the folder of the sheet, or below it.',
      });
    };
    if (isAbsolute(path) || /^[a-z]:|\\|\0/i.test(path)) outside();
    const target = resolve(folder, path);
    if (!isInside(folder, target)) outside();
    const real = await realpath(target).catch(() => null);
    if (real !== null && !isInside(await realpath(folder), real)) outside();
    return readInput(target);
  };
}

/** Whether a path is a folder or lies in it. */
export function isInside(folder: string, path: string): boolean {
  const way = relative(folder, path);
  return way !== '..' && !way.startsWith(`..${sep}`) && !isAbsolute(way);
}

/**
 * Sees to it that a result does not take the place of what it is made from.
 *
 * @throws InputError `overwrites` where it would, also by way of a link
 */
export async function requireOther(output: string, inputs: readonly string[]): Promise<void> {
  const real = (path: string): Promise<string> => realpath(path).catch(() => resolve(path));
  const target = await real(output);
  for (const input of inputs) {
    if ((await real(input)) !== target) continue;
    throw new InputError('overwrites', `${output} is one of the files that it would be made from.`, {
      place: { file: output },
      hint: 'Give another name for the result.',
    });
  }
}

/** Makes a folder, and those that it lies in, unless it is there. */
export async function makeFolder(path: string): Promise<void> {
  try {
    await mkdir(path, { recursive: true });
  } catch (cause) {
    throw new InputError('no-write', `The folder ${path} cannot be made: ${reason(cause)}.`, {
      place: { file: path },
      cause,
    });
  }
}

/** A file that is to be written. */
export interface FileToWrite {
  readonly path: string;
  readonly content: Uint8Array | string | AsyncIterable<Uint8Array>;
}

/** Writes a file whole or not at all. */
export const writeWhole = (path: string, content: FileToWrite['content']): Promise<void> =>
  writeAllWhole([{ path, content }]);

/** Writes files one after the other, all of them or none: they take their places once the last is written. */
export async function writeAllWhole(files: readonly FileToWrite[]): Promise<void> {
  const drafts: { readonly path: string; readonly draft: string }[] = [];
  let at = '';
  try {
    for (const { path, content } of files) {
      at = path;
      const draft = join(dirname(path), `.${basename(path)}.${process.pid}.part`);
      drafts.push({ path, draft });
      await writeFile(draft, content);
    }
    for (const { path, draft } of drafts) {
      at = path;
      await rename(draft, path);
    }
  } catch (cause) {
    await Promise.all(drafts.map(({ draft }) => rm(draft, { force: true })));
    // What goes wrong while the content is made is no failure to write.
    if (cause instanceof InputError) throw cause;
    throw new InputError('no-write', `${at} cannot be written: ${reason(cause)}.`, {
      place: { file: at },
      cause,
    });
  }
}
