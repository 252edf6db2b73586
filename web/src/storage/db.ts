import type { ClipFacts, Edited, Scene } from '@warper/core';
import Dexie, { type Table } from 'dexie';
import type { Strip } from '../motion/strip';

/** One step of undo: what it is called and the differences to and fro. */
export interface HistoryEntry {
  readonly label: string;
  readonly patches: Edited['patches'];
  readonly inverse: Edited['inverse'];
}

/** A scene as it is kept. */
export interface StoredScene {
  readonly id: string;
  readonly document: Scene;
  readonly past: readonly HistoryEntry[];
  readonly future: readonly HistoryEntry[];
  readonly updatedAt: number;
}

/** A source file as it came. */
export interface StoredFile {
  /** Source id: content hash, and the scale it is read at. */
  readonly id: string;
  readonly file: string;
  readonly scale?: number;
  readonly bytes: Uint8Array;
  readonly addedAt: number;
}

/** What is known of a clip without reading its file. */
export interface StoredClip {
  readonly id: string;
  readonly source: string;
  readonly name: string;
  readonly order: number;
  readonly facts: ClipFacts;
  readonly strip: Strip;
}

/** What is known of a body without reading its file. */
export interface StoredBody {
  readonly id: string;
  readonly source: string;
  readonly name: string;
  readonly joints: number;
  readonly skinned: boolean;
  readonly heightMetres: number;
}

class WarperDb extends Dexie {
  scenes!: Table<StoredScene, string>;
  files!: Table<StoredFile, string>;
  clips!: Table<StoredClip, string>;
  bodies!: Table<StoredBody, string>;

  constructor() {
    super('warper');
    this.version(1).stores({
      scenes: 'id, updatedAt',
      files: 'id',
      clips: 'id, source, order',
      bodies: 'id, source',
    });
  }
}

/** Everything that this browser keeps. */
export const db = new WarperDb();
