import { BIN_CHUNK, JSON_CHUNK, MAGIC, readChunks } from './container';
import { header, padded } from './chunks';

/** A GLB whose document is changed, as its parts; its binary content stays as it is. */
export function editedGlb(glb: Uint8Array, edit: (document: Record<string, unknown>) => void): Uint8Array[] {
  const { json, bin } = readChunks(glb);
  const document = JSON.parse(new TextDecoder().decode(json)) as Record<string, unknown>;
  edit(document);
  const text = padded(new TextEncoder().encode(JSON.stringify(document)), ' '.charCodeAt(0));
  const content = bin ? [header(bin.length, BIN_CHUNK), bin] : [];
  const length = 12 + 8 + text.length + content.reduce((sum, part) => sum + part.length, 0);
  return [header(MAGIC, 2, length), header(text.length, JSON_CHUNK), text, ...content];
}
