import type { RoleMap } from '@warper/core';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** Hex digits of the content hash that name a source: 80 bits, beyond any chance meeting. */
const DIGITS = 20;

/** The name of a file's content: the start of its SHA-256 in hex. */
export const hashBytes = (bytes: Uint8Array): string => bytesToHex(sha256(bytes)).slice(0, DIGITS);

/** The same by the platform's own means where it has them, which are ten times as fast. */
export async function contentHash(bytes: Uint8Array): Promise<string> {
  const subtle = globalThis.crypto?.subtle as SubtleCrypto | undefined;
  if (!subtle) return hashBytes(bytes);
  const digest = new Uint8Array(await subtle.digest('SHA-256', bytes as Uint8Array<ArrayBuffer>));
  return bytesToHex(digest).slice(0, DIGITS);
}

/** The id of a source: its content hash, and the scale and the roles with which it is read where they were asked for. */
export const sourceId = (hash: string, scale?: number, roles?: RoleMap): string =>
  hash +
  (scale === undefined ? '' : `@${scale}`) +
  (roles && Object.keys(roles).length > 0
    ? `~${hashBytes(new TextEncoder().encode(JSON.stringify(Object.entries(roles).sort())))}`
    : '');

/** Id of take `index` of a source. */
export const clipId = (source: string, index: number): string => `${source}#${index}`;

/** Id of body `index` of a source. */
export const bodyId = (source: string, index: number): string => `${source}#b${index}`;

/** The source that a clip's or body's id belongs to. */
export const sourceOfId = (id: string): string => id.slice(0, id.lastIndexOf('#'));
