import type { ClipFacts, Edited, Scene } from '@warper/core';
import Dexie, { type Table, type Transaction } from 'dexie';
import type { Preview } from '../motion/preview';

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
  /** Large files are kept as a blob, which is stored without being copied piece by piece first. */
  readonly bytes: Uint8Array | Blob;
  readonly addedAt: number;
}

/** Bytes above which a file is kept as a blob: the page would stand still while it is copied. */
const LARGE = 4_000_000;

/** How a file's bytes are kept. */
export const storedBytes = (bytes: Uint8Array): Uint8Array | Blob =>
  bytes.length > LARGE ? new Blob([bytes as Uint8Array<ArrayBuffer>]) : bytes;

/** The bytes of a kept file. */
export const bytesOf = async ({ bytes }: Pick<StoredFile, 'bytes'>): Promise<Uint8Array> =>
  bytes instanceof Uint8Array ? bytes : new Uint8Array(await bytes.arrayBuffer());

/** What is known of a clip without reading its file. */
export interface StoredClip {
  readonly id: string;
  readonly source: string;
  /** Name of the file that it came in. */
  readonly file: string;
  readonly name: string;
  readonly order: number;
  readonly facts: ClipFacts;
  readonly tags: readonly string[];
  /** Ids of the collections that it is in. */
  readonly collections: readonly string[];
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
  previews!: Table<StoredPreview, string>;
  collections!: Table<StoredCollection, string>;
  assets!: Table<StoredAsset, string>;

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
