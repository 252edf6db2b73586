import { keptClips } from './keptClips';
import { InputError, defined } from '@warper/core';
import type { Remark } from '@warper/formats';
import { contentHash, detectFile, filesBeside } from '@warper/formats';
import type { StoredAsset } from './db';
import { LARGE, bytesOf, db } from './db';
import { motion } from './motion';
import type { FoundClip } from './findings';
import { keepStorage } from './keepStorage';
import { findClips } from './findings';
import { keepRead } from './pageLibrary';
import type { ReadResult } from '../workers/protocol';

/** What a file turned out to be. Nothing of it is kept yet. */
export type FoundFile = { readonly file: string } & (
  | { readonly state: 'waiting' | 'reading' }
  | { readonly state: 'bad'; readonly message: string; readonly hint: string }
  | { readonly state: 'known' }
  | {
      readonly state: 'asset';
      readonly asset: StoredAsset;
      /** Of a sound. */
      readonly seconds?: number;
    }
  | {
      readonly state: 'motion';
      readonly result: ReadResult;
      /** Those that are not in the library yet. */
      readonly clips: readonly FoundClip[];
      readonly knownClips: number;
      readonly remarks: readonly Remark[];
    }
);

/** Files on their way in, and what is known of them so far. */
export interface ReadOptions {
  /** The rate of the scene in hand. */
  readonly sceneRate?: number | string;
  /** Called whenever something is known of a file, by its place in the list. */
  readonly found: (index: number, file: FoundFile) => void;
  readonly signal: AbortSignal;
}

/**
 * Reads and measures files in workers, several side by side, and keeps nothing. The buffers and textures that a .gltf among
 * them names are taken with it and are no files of their own.
 *
 * @returns the files that count, as they stand when all are read
 */
export async function readFiles(files: readonly File[], options: ReadOptions): Promise<FoundFile[]> {
  const contents = new Map<string, Uint8Array | Blob>();
  for (const file of files) contents.set(file.name, await contentOf(file));
  const belonging = new Set<string>();
  for (const content of contents.values()) {
    if (content instanceof Blob) continue;
    for (const uri of filesBeside(content)) belonging.add(uri.replace(/^.*\//, ''));
  }
  const beside: Record<string, Uint8Array> = {};
  for (const [name, content] of contents)
    if (belonging.has(name)) beside[name] = await bytesOf({ bytes: content });
  const own = [...contents].filter(([name]) => !belonging.has(name));
  const state: FoundFile[] = own.map(([file]) => ({ file, state: 'waiting' }));
  const tell = (i: number, file: FoundFile): void => {
    state[i] = file;
    options.found(i, file);
  };
  state.forEach((file, i) => tell(i, file));
  // Names are given out in the order of the files, however fast each is read.
  const taken = new Set((await keptClips()).map((c) => c.name.toLowerCase()));
  const reading = own.map(async ([file, bytes], i) => {
    try {
      return await readOne(file, bytes, beside, options.signal, () => tell(i, { file, state: 'reading' }));
    } catch (error) {
      return { file, state: 'bad' as const, ...describeError(error) };
    }
  });
  for (let i = 0; i < reading.length; i++) {
    const read = await defined(reading[i]);
    if (!('result' in read)) {
      tell(i, read);
      continue;
    }
    const source = read.result.file.id;
    const stored = new Set(await db.clips.where('source').equals(source).primaryKeys());
    const clips = findClips(read.result, taken, options.sceneRate).filter(({ clip }) => !stored.has(clip.id));
    if (clips.length === 0 && (await db.files.get(source))) {
      tell(i, { file: read.file, state: 'known' });
      continue;
    }
    for (const { clip } of clips) taken.add(clip.name.toLowerCase());
    tell(i, {
      file: read.file,
      state: 'motion',
      result: read.result,
      clips,
      knownClips: stored.size,
      remarks: [...read.result.imported.remarks, ...(await mappingRemarks(read.result))],
    });
  }
  return state;
}

/** Which kept mappings a file was read with. */
async function mappingRemarks({ imported }: ReadResult): Promise<Remark[]> {
  if (!imported.mapped) return [];
  const kept = await db.mappings.bulkGet(imported.bodies.map((b) => b.signature));
  return kept.flatMap((m) =>
    m ? [{ code: 'mapped', message: `Its bones are mapped as “${m.name}” says.` }] : [],
  );
}

/** A file's bytes; a large one as it is, unless it is a text that may name files beside it. */
async function contentOf(file: File): Promise<Uint8Array | Blob> {
  const head = new Uint8Array(await file.slice(0, 64).arrayBuffer());
  const isText = head.find((b) => b > 0x20 && b < 0x80) === 0x7b;
  return file.size > LARGE && !isText ? file : new Uint8Array(await file.arrayBuffer());
}

async function readOne(
  file: string,
  content: Uint8Array | Blob,
  beside: Readonly<Record<string, Uint8Array>>,
  signal: AbortSignal,
  began: () => void,
): Promise<FoundFile | { readonly file: string; readonly result: ReadResult }> {
  const head = content instanceof Blob ? await bytesOf({ bytes: content.slice(0, 5000) }) : content;
  const { kind, mediaType: type } = await detectFile(head);
  if (type && (kind === 'sound' || (kind === 'picture' && /\.(png|jpe?g)$/i.test(file)))) {
    const bytes = await bytesOf({ bytes: content });
    const id = await contentHash(bytes);
    if (await db.assets.get(id)) return { file, state: 'known' };
    const asset = { id, file, type, bytes, addedAt: Date.now() };
    if (kind === 'picture') return { file, state: 'asset', asset };
    // What reads sounds is not needed for motion.
    const { readSoundFile } = await import('@warper/formats/sound');
    const { seconds } = await readSoundFile(bytes, file);
    return { file, state: 'asset', asset, seconds };
  }
  return { file, result: await motion.read(content, file, { beside }, signal, began) };
}

/** What of the found files is to be kept. */
export interface Kept {
  /** Names of the clips to keep, by id. */
  readonly names: ReadonlyMap<string, string>;
  /** Whether a file's bodies are kept where none of its clips is. */
  readonly bodies: ReadonlySet<string>;
}

/** Keeps what was chosen of the found files: all of it, or nothing. */
export async function keepFiles(matches: readonly FoundFile[], kept: Kept): Promise<void> {
  const results = matches.flatMap((f): ReadResult[] => {
    if (f.state !== 'motion') return [];
    const clips = f.clips
      .filter(({ clip }) => kept.names.has(clip.id))
      .map(({ clip }) => ({ ...clip, name: defined(kept.names.get(clip.id)) }));
    return clips.length > 0 || kept.bodies.has(f.result.file.id) ? [{ ...f.result, clips }] : [];
  });
  const assets = matches.flatMap((f) => (f.state === 'asset' ? [f.asset] : []));
  if (assets.length > 0) await db.assets.bulkPut(assets);
  if (results.length > 0) await keepRead(...results);
  void keepStorage();
}

/** Codes of errors about the open document: it has no lines, and its message names what is meant. */
const OF_DOCUMENT = new Set(['edit', 'locked', 'missing-clip', 'missing-body']);

/** What went wrong, where, and what to do, for people. */
export function describeError(error: unknown): { message: string; hint: string } {
  if (!(error instanceof InputError)) {
    return { message: error instanceof Error ? error.message : String(error), hint: 'Try again.' };
  }
  const { line, byte, bone, frame, path } = OF_DOCUMENT.has(error.code) ? {} : error.place;
  const where = [
    line !== undefined && `line ${line}`,
    byte !== undefined && `byte ${byte}`,
    bone !== undefined && `bone ${bone}`,
    frame !== undefined && `sample ${frame}`,
    path,
  ].filter(Boolean);
  return { message: `${where.length > 0 ? `${where.join(', ')}: ` : ''}${error.message}`, hint: error.hint };
}
