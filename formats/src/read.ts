import { InputError } from '@warper/core';
import type { ReadOptions } from './imported';
import { readBvh } from './bvh/read';
import { contentHash } from './hash';
import { isGlb } from './gltf/open';
import { readGltf } from './gltf/read';
import type { Imported } from './imported';

/** What a file is, by its first bytes. */
export type FileKind = 'bvh' | 'gltf' | 'zip' | 'picture' | 'unknown';

/** Recognises a file by its content; its name is not asked. */
export function detectKind(bytes: Uint8Array): FileKind {
  if (isGlb(bytes)) return 'gltf';
  const head = String.fromCharCode(...bytes.subarray(0, 512));
  if (/^(\u00ef\u00bb\u00bf)?\s*HIERARCHY\b/i.test(head)) return 'bvh';
  if (/^(\u00ef\u00bb\u00bf)?\s*\{/.test(head)) return 'gltf';
  if (head.startsWith('PK\u0003\u0004')) return 'zip';
  if (/^(\u0089PNG|\u00ff\u00d8\u00ff|GIF8|RIFF....WEBP|BM)/s.test(head)) return 'picture';
  return 'unknown';
}

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
    switch (detectKind(bytes)) {
      case 'bvh':
        return readBvh(bytes, file, { ...options, hash: options.hash ?? (await contentHash(bytes)) });
      case 'gltf':
        return await readGltf(bytes, file, options);
      default:
        throw unreadable(bytes);
    }
  } catch (error) {
    throw error instanceof InputError ? error.at({ file }) : error;
  }
}

function unreadable(bytes: Uint8Array): InputError {
  const kind = detectKind(bytes);
  const what =
    bytes.length === 0
      ? 'The file is empty.'
      : kind === 'picture'
        ? 'This is a picture, whatever its name says.'
        : kind === 'zip'
          ? 'This is an archive, not a motion.'
          : 'This is no motion file that can be read.';
  return new InputError('unknown-format', what, {
    hint: 'Give glTF, GLB or BVH; other programs can export at least one of them.',
  });
}
