import type { ClipFacts, Edited, OwnSteps, RoleMap, Scene } from '@warper/core';
import Dexie, { type Table, type Transaction } from 'dexie';
import type { ListedBody, ListedClip, Preview } from '@warper/formats';

/** One step of undo: what it is called and the differences to and fro. */
export interface HistoryEntry {
  readonly label: string;
  readonly patches: Edited['patches'];
  readonly inverse: Edited['inverse'];
}

/** A scene with its history, as it was after so many changes. */
export interface StoredScene {
  readonly id: string;
  readonly document: Scene;
  readonly past: readonly HistoryEntry[];
  readonly future: readonly HistoryEntry[];
  readonly updatedAt: number;
  /** Number of the last change that is in it; 0 for a new scene. */
  readonly changes: number;
}

/** One change of a scene, written as it happens: what happened since the scene was last kept whole is done again from these. */
export type StoredChange =
  ChangeOf<'edit', { readonly entry: HistoryEntry }> | ChangeOf<'undo'> | ChangeOf<'redo'>;

type ChangeOf<Kind extends string, More = unknown> = {
  readonly kind: Kind;
  readonly scene: string;
  /** Counts the scene's changes from 1. */
  readonly number: number;
  readonly at: number;
} & More;

/** When a scene was changed last; for those who watch it. */
export interface Touched {
  readonly id: string;
  readonly number: number;
  readonly at: number;
}

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

/** A named group of clips. */
export interface StoredCollection {
  readonly id: string;
  readonly name: string;
}

/** A picture or sound as it came. */
export interface StoredAsset {
  readonly id: string;
  readonly file: string;
  /** Media type, such as `image/png`. */
  readonly type: string;
  readonly bytes: Uint8Array;
  readonly addedAt: number;
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

class WarperDb extends Dexie {
  scenes!: Table<StoredScene, string>;
  files!: Table<StoredFile, string>;
  clips!: Table<StoredClip, string>;
  bodies!: Table<StoredBody, string>;
  previews!: Table<StoredPreview, string>;
  collections!: Table<StoredCollection, string>;
  assets!: Table<StoredAsset, string>;
  mappings!: Table<StoredMapping, string>;
  changes!: Table<StoredChange, [string, number]>;
  touched!: Table<Touched, string>;

  constructor() {
    super('warper');
    this.version(1).stores({
      scenes: 'id, updatedAt',
      files: 'id',
      clips: 'id, source, order',
      bodies: 'id, source',
    });
    this.version(2)
      .stores({
        previews: 'id',
        collections: 'id, name',
        assets: 'id',
        clips: 'id, source, order, *collections',
      })
      .upgrade(upgradeClips);
    this.version(3).stores({ mappings: 'id', bodies: 'id, source, signature' });
    this.version(4).stores({ changes: '[scene+number], scene', touched: 'id' });
  }
}

/** A clip as version 1 kept it: with its figures as nested lists, and fewer facts. */
interface FirstClip {
  id: string;
  source: string;
  facts: Omit<ClipFacts, 'meanSpeed' | 'strideSpeed' | 'jumps' | 'loop'> & {
    loop: Omit<ClipFacts['loop'], 'gapDegrees'>;
  };
  strip?: readonly (readonly (readonly [number, number, number, number])[])[];
}

/** Gives clips of version 1 what later ones have. What was not measured then is taken from what was. */
async function upgradeClips(work: Transaction): Promise<void> {
  const files = new Map((await work.table<StoredFile>('files').toArray()).map((f) => [f.id, f.file]));
  const previews: StoredPreview[] = [];
  await work
    .table<FirstClip>('clips')
    .toCollection()
    .modify((clip) => {
      const strip = clip.strip ?? [];
      const lines = strip[0]?.length ?? 0;
      const millimetres = strip.flatMap((f) => f.flatMap((l) => l.map((v) => Math.round(v * 1000))));
      previews.push({ id: clip.id, figures: strip.length, lines, places: Int16Array.from(millimetres) });
      delete clip.strip;
      const { facts } = clip;
      const { loop } = facts;
      const speed = facts.seconds > 0 ? facts.travelMetres / facts.seconds : 0;
      const repeats = facts.frames > 1 && loop.verdict !== 'none';
      Object.assign(clip, {
        file: files.get(clip.source) ?? '',
        tags: [],
        collections: [],
        facts: {
          ...facts,
          loop: { gapDegrees: 0, ...loop },
          meanSpeed: speed,
          strideSpeed: repeats ? (Math.hypot(loop.cycle.x, loop.cycle.z) * facts.rate) / loop.period : null,
          jumps: [],
        },
      });
    });
  await work.table('previews').bulkPut(previews);
}

/** Everything that this browser keeps. */
export const db = new WarperDb();
