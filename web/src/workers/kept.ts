import type { ClipEntry, OwnSteps, RoleMap } from '@warper/core';
import type { ListedBody, ListedClip, Preview } from '@warper/formats';

/** A source file as it came. */
export interface StoredFile {
  /** Source id: content hash, and the scale it is read at. */
  readonly id: string;
  readonly file: string;
  readonly scale?: number;
  /** Roles of joints that it is read with, where its id says so. */
  readonly roles?: RoleMap;
  /** Large files are kept as a blob, which is stored without being copied piece by piece first. */
  readonly bytes: Uint8Array | Blob;
  readonly addedAt: number;
}

/** Bytes above which a file is kept as a blob, and read by a worker alone: the page would stand still while it is copied. */
export const LARGE = 4_000_000;

/** How a file's bytes are kept. */
export const storedBytes = (bytes: Uint8Array): Uint8Array | Blob =>
  bytes.length > LARGE ? new Blob([bytes as Uint8Array<ArrayBuffer>]) : bytes;

/** The bytes of a kept file. */
export const bytesOf = async ({ bytes }: Pick<StoredFile, 'bytes'>): Promise<Uint8Array> =>
  bytes instanceof Uint8Array ? bytes : new Uint8Array(await bytes.arrayBuffer());

/** A clip of the library: what is known of it without reading its file, and what the user makes of it. */
export interface StoredClip extends ListedClip {
  readonly order: number;
  readonly tags: readonly string[];
  /** Ids of the collections that it is in. */
  readonly collections: readonly string[];
  /** Id of the clip at the library server that it was taken from. */
  readonly taken?: string;
  /** The user's own steps, in place of those that are found. */
  readonly steps?: OwnSteps;
}

/** The small figures of a clip; kept apart, so that thousands of clips can be listed without them. */
export interface StoredPreview extends Preview {
  readonly id: string;
}

/** How a clip begins, by which thousands are ranked; kept apart for the same reason. */
export interface StoredEntry extends ClipEntry {
  readonly id: string;
}

/** A body of the library. */
export type StoredBody = ListedBody;

/** What the user has mapped by hand for a skeleton: all files with it are read with these roles. */
export interface StoredMapping {
  /** The skeleton's signature. */
  readonly id: string;
  readonly name: string;
  readonly roles: RoleMap;
  readonly changedAt: number;
}
