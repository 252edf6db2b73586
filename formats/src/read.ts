import { InputError } from '@warper/core';
import type { ReadOptions } from './imported';
import { readBvh } from './bvh/read';
import { contentHash } from './hash';
import { isGlb } from './gltf/open';
import { readGltf } from './gltf/read';
import type { Imported } from './imported';

/** What a file is, by its first bytes. */
export type FileKind = 'bvh' | 'gltf' | 'zip' | 'picture' | 'sound' | 'text' | 'unknown';

/** Recognises a file by its content; its name is not asked. */
export function detectKind(bytes: Uint8Array): FileKind {
  if (isGlb(bytes)) return 'gltf';
  const head = String.fromCharCode(...bytes.subarray(0, 512));
  if (/^(\u00ef\u00bb\u00bf)?\s*HIERARCHY\b/i.test(head)) return 'bvh';
  if (/^(\u00ef\u00bb\u00bf)?\s*\{/.test(head)) return 'gltf';
  if (head.startsWith('PK\u0003\u0004')) return 'zip';
  if (/^(\u0089PNG|\u00ff\u00d8\u00ff|GIF8|RIFF....WEBP|BM)/s.test(head)) return 'picture';
  if (/^(RIFF....WAVE|ID3|OggS|\u00ff[\u00e2\u00e3\u00f2\u00f3\u00fa\u00fb])/s.test(head)) return 'sound';
  // eslint-disable-next-line no-control-regex
  return head.length > 0 && !/[\u0000-\u0008\u000e-\u001a]/.test(head) ? 'text' : 'unknown';
}

/** What a picture or sound is, by its first bytes: its media type; null for kinds that are not kept. */
export function mediaType(bytes: Uint8Array): string | null {
  const head = String.fromCharCode(...bytes.subarray(0, 16));
  if (head.startsWith('\u0089PNG')) return 'image/png';
  if (head.startsWith('\u00ff\u00d8\u00ff')) return 'image/jpeg';
  if (/^RIFF....WAVE/s.test(head)) return 'audio/wav';
  if (head.startsWith('OggS')) return 'audio/ogg';
  return detectKind(bytes) === 'sound' ? 'audio/mpeg' : null;
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

function unreadable(bytes: Uint8Array): InputError {
  const what = bytes.length === 0 ? 'The file is empty.' : WHAT[detectKind(bytes)];
  return new InputError('unknown-format', what, {
    hint: 'Give glTF, GLB or BVH; other programs can export at least one of them.',
  });
}
