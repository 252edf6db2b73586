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
      case 'usd':
      case 'collada':
        return await readConverted(bytes, kind, file, options);
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

/** Largest file that is read by way of GLB: all of it is held several times meanwhile. */
const MOST_CONVERTED = 256 * 2 ** 20;

/** Reads a file by way of GLB; its clips and bodies are those of the GLB, by whose content they are named. */
async function readConverted(
  bytes: Uint8Array,
  kind: 'usd' | 'collada',
  file: string,
  { hash: _hash, ...options }: ReadOptions,
): Promise<Imported> {
  if (bytes.length > MOST_CONVERTED)
    throw new InputError('too-large', `It is larger than ${MOST_CONVERTED / 2 ** 20} MB.`, {
      hint: 'Export a shorter part of it, or as GLB.',
    });
  // Apart, since few files need them.
  const { glb, textures } =
    kind === 'usd'
      ? await (await import('./convert/usd')).usdToGlb(bytes)
      : await (await import('./convert/collada')).colladaToGlb(bytes);
  const imported = await readGltf(glb, file, options);
  const left = { code: 'left-out', message: 'Its textures were left out; its colours were kept.' };
  return {
    ...imported,
    format: kind,
    converted: glb,
    remarks: textures > 0 ? [...imported.remarks, left] : imported.remarks,
  };
}

const WHAT: Readonly<Record<FileKind, string>> = {
  bvh: '',
  gltf: '',
  usd: '',
  collada: '',
  picture: 'This is a picture, whatever its name says.',
  sound: 'This is a sound, not a motion.',
  zip: 'This is an archive, not a motion.',
  text: 'This is a text that says nothing of a motion.',
  unknown: 'This is in no open format for motion: it may be in the own format of the program that wrote it.',
};

function unreadable(bytes: Uint8Array, kind: FileKind): InputError {
  const what = bytes.length === 0 ? 'The file is empty.' : WHAT[kind];
  return new InputError('unknown-format', what, {
    hint: 'Give glTF, GLB, VRM, BVH, USD or Collada; other programs can export at least one of them.',
  });
}
