import { readChunks } from './container';

/** Bytes that are turned into letters at once; a multiple of three, so that parts follow each other. */
const AT_ONCE = 3 * 8192;

/** A GLB as one .gltf: the same document, with its buffer as text in it (glTF 2.0.1, section 3.6.1.1). */
export function textGltf(glb: Uint8Array): Uint8Array {
  const { json, bin } = readChunks(glb);
  const document = JSON.parse(new TextDecoder().decode(json)) as { buffers?: { uri?: string }[] };
  const [buffer] = document.buffers ?? [];
  if (buffer && bin) buffer.uri = `data:application/octet-stream;base64,${base64(bin)}`;
  return new TextEncoder().encode(JSON.stringify(document));
}

function base64(bytes: Uint8Array): string {
  const parts: string[] = [];
  for (let at = 0; at < bytes.length; at += AT_ONCE)
    parts.push(btoa(String.fromCharCode(...bytes.subarray(at, at + AT_ONCE))));
  return parts.join('');
}
