import { Logger, WebIO } from '@gltf-transform/core';
import { mergeBuffers } from './mergeBuffers';
import { openDocument } from './open';

/** The files beside a .gltf that it names, as it names them; empty for a GLB, and for what is no glTF at all. */
export function filesBeside(bytes: Uint8Array): string[] {
  // A whole file is turned into text only where it begins like one.
  const first = bytes.subarray(0, 64).find((b) => b > 0x20 && b < 0x80);
  if (first !== 0x7b) return [];
  let json: { buffers?: { uri?: unknown }[]; images?: { uri?: unknown }[] };
  try {
    json = JSON.parse(new TextDecoder().decode(bytes)) as typeof json;
  } catch {
    return [];
  }
  const entries = [json?.buffers, json?.images].flatMap((list) => (Array.isArray(list) ? list : []));
  const uris = entries.map((e) => e?.uri).filter((uri): uri is string => typeof uri === 'string');
  return [...new Set(uris.filter((uri) => !uri.startsWith('data:')).map(decodeURIComponent))];
}

/**
 * Packs a .gltf with the files beside it into one GLB, so that it can be kept and sent as a whole.
 *
 * @throws InputError `gltf-beside` where one of them is missing
 */
export async function packGltf(
  bytes: Uint8Array,
  beside: (uri: string) => Uint8Array | undefined,
): Promise<Uint8Array> {
  const document = await openDocument(bytes, beside);
  mergeBuffers(document);
  return new WebIO().setLogger(new Logger(Logger.Verbosity.SILENT)).writeBinary(document);
}
