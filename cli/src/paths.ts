import { readFile, realpath, rename, rm, writeFile } from 'node:fs/promises';
import { basename, dirname, isAbsolute, join, relative, resolve, sep } from 'node:path';
import { InputError } from '@warper/core';

/** Reads a file that the user named. */
export async function readInput(path: string): Promise<Uint8Array> {
  try {
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
    if (!inside(folder, target)) outside();
    const real = await realpath(target).catch(() => null);
    if (real !== null && !inside(await realpath(folder), real)) outside();
    return readInput(target);
  };
}

function inside(folder: string, path: string): boolean {
  const way = relative(folder, path);
  return way !== '..' && !way.startsWith(`..${sep}`) && !isAbsolute(way);
}

/** Writes a file whole or not at all. */
export async function writeWhole(path: string, bytes: Uint8Array | string): Promise<void> {
  const draft = join(dirname(path), `.${basename(path)}.${process.pid}.part`);
  try {
    await writeFile(draft, bytes);
    await rename(draft, path);
  } catch (cause) {
    await rm(draft, { force: true });
    throw new InputError('no-write', `${path} cannot be written: ${reason(cause)}.`, {
      place: { file: path },
      cause,
    });
  }
}
