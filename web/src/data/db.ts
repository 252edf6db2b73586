import type { ClipFacts, Edited, Scene } from '@warper/core';
import type { HeardRhythm, Waveform } from '@warper/formats/sound';
import Dexie, { type Table, type Transaction } from 'dexie';
import type {
  StoredBody,
  StoredClip,
  StoredEntry,
  StoredFile,
  StoredMapping,
  StoredPreview,
} from '../workers/kept';

export type { StoredBody, StoredClip, StoredFile, StoredMapping, StoredPreview } from '../workers/kept';
export { LARGE, bytesOf, storedBytes } from '../workers/kept';

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
  | ChangeOf<'edit', { readonly entry: HistoryEntry }>
  /** Differences that became part of the last step of undo. */
  | ChangeOf<'amend', { readonly entry: HistoryEntry }>
  | ChangeOf<'undo'>
  | ChangeOf<'redo'>;

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

/** What is known of a sound of the library: how long it is, how it is drawn, and what is heard in it. */
export interface StoredSound extends HeardRhythm {
  /** That of its file. */
  readonly id: string;
  readonly seconds: number;
  readonly waveform: Waveform;
}

/** A picture of a sequence that is on its way. */
export interface StoredPicture {
  /** What tells the sequence from others. */
  readonly film: string;
  readonly number: number;
  readonly picture: Blob;
}

class WarperDb extends Dexie {
  scenes!: Table<StoredScene, string>;
  files!: Table<StoredFile, string>;
  clips!: Table<StoredClip, string>;
  bodies!: Table<StoredBody, string>;
  previews!: Table<StoredPreview, string>;
  entries!: Table<StoredEntry, string>;
  collections!: Table<StoredCollection, string>;
  assets!: Table<StoredAsset, string>;
  mappings!: Table<StoredMapping, string>;
  changes!: Table<StoredChange, [string, number]>;
  touched!: Table<Touched, string>;
  pictures!: Table<StoredPicture, [string, number]>;
  sounds!: Table<StoredSound, string>;

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
    this.version(5).stores({ entries: 'id' });
    this.version(6).stores({ pictures: '[film+number], film' });
    this.version(7).stores({ sounds: 'id' });
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
