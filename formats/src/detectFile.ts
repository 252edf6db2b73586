import { fileTypeFromBuffer } from 'file-type';
import { isGlb } from './gltf/open';

/** What a file is, by its first bytes. */
export type FileKind = 'bvh' | 'gltf' | 'usd' | 'collada' | 'zip' | 'picture' | 'sound' | 'text' | 'unknown';

/** A file told by its content; its name is not asked. */
export interface DetectedFile {
  readonly kind: FileKind;
  /** Media type of a picture or sound that can be kept beside motion; null for all others. */
  readonly mediaType: string | null;
}

/** Bytes that are looked at. */
const HEAD = 4100;

/** Media types of what is kept beside motion. */
const KEPT = ['image/png', 'image/jpeg', 'audio/wav', 'audio/ogg', 'audio/mpeg', 'audio/flac'];

const ZIP = 'PK\u0003\u0004';

/** The name of the first entry of a zip (APPNOTE 4.3.7): of a USDZ that is its root layer (OpenUSD, USDZ specification). */
const firstEntry = (head: string): string =>
  head.slice(30, 30 + head.charCodeAt(26) + head.charCodeAt(27) * 256);

/** What files begin with of which too little is left to look into. */
const CUT_SHORT: readonly (readonly [RegExp, string])[] = [
  [/^\u0089PNG/, 'image/png'],
  [/^RIFF....WAVE/s, 'audio/wav'],
  [/^OggS/, 'audio/ogg'],
  [/^ID3/, 'audio/mpeg'],
  [/^fLaC/, 'audio/flac'],
];

/**
 * Recognises a file by its content. Motion is told here; everything else by its signature, as the `file-type` package knows them.
 *
 * @param bytes the file, or a good part of its beginning
 */
export async function detectFile(bytes: Uint8Array): Promise<DetectedFile> {
  if (isGlb(bytes)) return { kind: 'gltf', mediaType: null };
  const head = String.fromCharCode(...bytes.subarray(0, 512));
  if (/^(\u00ef\u00bb\u00bf)?\s*HIERARCHY\b/i.test(head)) return { kind: 'bvh', mediaType: null };
  if (/^(\u00ef\u00bb\u00bf)?\s*\{/.test(head)) return { kind: 'gltf', mediaType: null };
  if (/^#usda\b|^PXR-USDC/.test(head)) return { kind: 'usd', mediaType: null };
  if (/^(\u00ef\u00bb\u00bf)?\s*<[^]*<?COLLADA\b/.test(head)) return { kind: 'collada', mediaType: null };
  if (head.startsWith(ZIP))
    return { kind: /\.usd[ac]?$/i.test(firstEntry(head)) ? 'usd' : 'zip', mediaType: null };
  const mime = (await fileTypeFromBuffer(bytes.subarray(0, HEAD)))?.mime;
  const type = mime?.replace(/;.*$/, '') ?? CUT_SHORT.find(([start]) => start.test(head))?.[1] ?? '';
  const mediaType = KEPT.includes(type) ? type : null;
  if (type.startsWith('image/')) return { kind: 'picture', mediaType };
  if (type.startsWith('audio/')) return { kind: 'sound', mediaType };
  // eslint-disable-next-line no-control-regex
  const isText = type === '' && head.length > 0 && !/[\u0000-\u0008\u000e-\u001a]/.test(head);
  return { kind: isText ? 'text' : 'unknown', mediaType: null };
}
