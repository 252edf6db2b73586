import type { Document, JSONDocument } from '@gltf-transform/core';
import { Logger, WebIO } from '@gltf-transform/core';
import { InputError } from '@warper/core';
import type { GltfParts } from './container';
import { openGlb, openGltf } from './container';

/** Builds the library's document of a checked glTF or GLB file. */
export const openDocument = async (
  bytes: Uint8Array,
  beside?: (uri: string) => Uint8Array | undefined,
): Promise<Document> => (await openWithJson(bytes, beside)).document;

/** The same, and the JSON of the file with the extensions that the library does not know. */
export async function openWithJson(
  bytes: Uint8Array,
  beside?: (uri: string) => Uint8Array | undefined,
): Promise<{ readonly document: Document; readonly json: GltfParts['json'] }> {
  const parts = isGlb(bytes) ? openGlb(bytes) : openGltf(bytes, beside);
  try {
    const io = new WebIO().setLogger(new Logger(Logger.Verbosity.SILENT));
    const { json, resources } = parts;
    return { document: await io.readJSON({ json, resources } as unknown as JSONDocument), json };
  } catch (cause) {
    throw new InputError('gltf', `The file cannot be read: ${(cause as Error).message}.`, {
      hint: 'Export the file again; a glTF validator shows what is wrong with it.',
      cause,
    });
  }
}

/** Whether a file begins as a GLB does. */
export const isGlb = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x67 && bytes[1] === 0x6c && bytes[2] === 0x54 && bytes[3] === 0x46;
