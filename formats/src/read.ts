import { InputError } from '@warper/core';
import type { ReadOptions } from './imported';
import { readBvh } from './bvh/read';
import { contentHash } from './hash';
import type { FileKind } from './detectFile';
import { detectFile } from './detectFile';
import { readGltf } from './gltf/read';
import type { Imported } from './imported';

/**
 * Reads a motion or character file of any open format that is known.
 *
 * @throws InputError with the file's name and, where it is known, the line, byte or path of what is wrong
 */
export async function readMotionFile(
  bytes: Uint8Array,
  file: string,
  options: ReadOptions = {},
): Promise<Imported> {
  try {
    const { kind } = await detectFile(bytes);
    switch (kind) {
      case 'bvh':
        return readBvh(bytes, file, { ...options, hash: options.hash ?? (await contentHash(bytes)) });
      case 'gltf':
        return await readGltf(bytes, file, options);
      default:
        throw unreadable(bytes, kind);
    }
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    const { code, message, place, hint, cause } = error;
    throw new InputError(code, message, {
      place: { file, ...place },
      hint: hint || 'The file is damaged: export it, or copy it, again.',
      cause,
    });
  }
}

const WHAT: Readonly<Record<FileKind, string>> = {
  bvh: '',
  gltf: '',
  picture: 'This is a picture, whatever its name says.',
  sound: 'This is a sound, not a motion.',
  zip: 'This is an archive, not a motion.',
  text: 'This is a text that says nothing of a motion.',
  unknown: 'This is in no open format for motion: it may be in the own format of the program that wrote it.',
};

function unreadable(bytes: Uint8Array, kind: FileKind): InputError {
  const what = bytes.length === 0 ? 'The file is empty.' : WHAT[kind];
  return new InputError('unknown-format', what, {
    hint: 'Give glTF, GLB or BVH; other programs can export at least one of them.',
  });
}
