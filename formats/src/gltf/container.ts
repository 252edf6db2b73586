import { InputError } from '@warper/core';
import { checkGltf } from './check';

export const MAGIC = 0x46546c67;
export const JSON_CHUNK = 0x4e4f534a;
export const BIN_CHUNK = 0x004e4942;

/** A glTF file taken apart: the checked document and the bytes of its buffers. */
export interface GltfParts {
  readonly json: Record<string, unknown>;
  /** By URI; the GLB's own chunk under the name that the glTF library gives it. */
  readonly resources: Record<string, Uint8Array<ArrayBuffer>>;
}

/** The name under which the glTF library looks for a GLB's own binary chunk. */
const GLB_CHUNK = '@glb.bin';

const fail = (message: string, byte: number): never => {
  throw new InputError('glb', message, {
    place: { byte },
    hint: 'The file is damaged or cut short; export or copy it again.',
  });
};

/**
 * The chunks of a GLB (glTF 2.0.1, section 4); parts of its bytes, not copies.
 *
 * @throws InputError `glb` with the byte of what is wrong
 */
export function readChunks(bytes: Uint8Array): {
  readonly json: Uint8Array;
  readonly bin: Uint8Array | null;
} {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20 || view.getUint32(0, true) !== MAGIC) fail('This is no GLB file.', 0);
  const version = view.getUint32(4, true);
  if (version !== 2) fail(`GLB version ${version} cannot be read; 2 can.`, 4);
  const length = view.getUint32(8, true);
  if (length > bytes.length) fail(`The file should have ${length} bytes and has ${bytes.length}.`, 8);
  let json: Uint8Array | null = null;
  let bin: Uint8Array | null = null;
  for (let at = 12; at + 8 <= length;) {
    const size = view.getUint32(at, true);
    const kind = view.getUint32(at + 4, true);
    if (at + 8 + size > length) fail(`A chunk of ${size} bytes begins here and reaches beyond the file.`, at);
    const chunk = bytes.subarray(at + 8, at + 8 + size);
    if (kind === JSON_CHUNK) json ??= chunk;
    else if (kind === BIN_CHUNK) bin ??= chunk;
    at += 8 + size + ((4 - (size % 4)) % 4);
  }
  return json ? { json, bin } : fail('The JSON chunk is missing.', 12);
}

/** Takes a GLB apart. */
export function openGlb(bytes: Uint8Array): GltfParts {
  const chunks = readChunks(bytes);
  const json = parseJson(chunks.json, chunks.json.byteOffset - bytes.byteOffset);
  const bin = chunks.bin?.slice();
  checkGltf(json);
  const buffers = (json.buffers as { uri?: string; byteLength: number }[] | undefined) ?? [];
  const own = buffers.findIndex((b) => b.uri === undefined);
  if (own >= 0 && buffers[own]!.byteLength > (bin?.length ?? 0)) {
    fail(`The binary chunk should have ${buffers[own]!.byteLength} bytes and has ${bin?.length ?? 0}.`, 12);
  }
  return { json, resources: { ...embedded(json, () => undefined), ...(bin ? { [GLB_CHUNK]: bin } : {}) } };
}

/** Takes a .gltf apart; files beside it are asked for by their name. */
export function openGltf(
  bytes: Uint8Array,
  beside: (uri: string) => Uint8Array | undefined = () => undefined,
): GltfParts {
  const json = parseJson(bytes, 0);
  checkGltf(json);
  return { json, resources: embedded(json, beside) };
}

function parseJson(bytes: Uint8Array, byte: number): unknown {
  try {
    return JSON.parse(new TextDecoder().decode(bytes));
  } catch (cause) {
    throw new InputError('glb', `The JSON of the file cannot be read: ${(cause as Error).message}.`, {
      place: { byte },
      hint: 'The file is damaged or cut short; export or copy it again.',
      cause,
    });
  }
}

/** Decodes data URIs of buffers and images, and fetches what lies beside. */
function embedded(
  json: Record<string, unknown>,
  beside: (uri: string) => Uint8Array | undefined,
): Record<string, Uint8Array<ArrayBuffer>> {
  const out: Record<string, Uint8Array<ArrayBuffer>> = {};
  for (const list of ['buffers', 'images'] as const) {
    ((json[list] as { uri?: string; byteLength?: number }[] | undefined) ?? []).forEach((entry, i) => {
      if (entry.uri === undefined) return;
      const where = `${list}[${i}]`;
      const data = entry.uri.startsWith('data:')
        ? decodeDataUri(entry.uri, where)
        : beside(decodeURIComponent(entry.uri));
      if (!data) {
        throw new InputError(
          'gltf-beside',
          `The file ${entry.uri.slice(0, 80)} that belongs to it was not given.`,
          {
            place: { path: where },
            hint: 'Give the .gltf together with its .bin and textures, or use a .glb.',
          },
        );
      }
      if (entry.byteLength !== undefined && data.length < entry.byteLength) {
        throw new InputError(
          'gltf',
          `The buffer should have ${entry.byteLength} bytes and has ${data.length}.`,
          { place: { path: where } },
        );
      }
      out[entry.uri] = data.slice();
    });
  }
  return out;
}

function decodeDataUri(uri: string, path: string): Uint8Array {
  const comma = uri.indexOf(',');
  try {
    if (!/;base64$/i.test(uri.slice(0, comma)))
      return new TextEncoder().encode(decodeURIComponent(uri.slice(comma + 1)));
    return Uint8Array.from(atob(uri.slice(comma + 1)), (c) => c.charCodeAt(0));
  } catch (cause) {
    throw new InputError('gltf', 'The embedded data cannot be decoded.', { place: { path }, cause });
  }
}
