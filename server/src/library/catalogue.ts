import { defined } from '@warper/core';
import type { ClipFilter, ListedBody, ListedClip, Preview } from '@warper/formats';
import { ClipIndex, foldersOf } from '@warper/formats';
import type { FileAt, Measured } from './work';

/** A page of what was found. */
export interface Found {
  readonly total: number;
  readonly clips: readonly ListedClip[];
}

/** What is looked for. */
export interface Question {
  readonly words: string;
  readonly filters: readonly ClipFilter[];
  /** Tag that all have; empty for any. */
  readonly tag: string;
  readonly sort: 'best' | 'name' | 'seconds' | 'travel';
  /** From 1. */
  readonly page: number;
  readonly per: number;
}

interface Entry {
  readonly measured: Measured;
  /** Files of this content; the first is the one that is given out. */
  readonly files: FileAt[];
}

const ORDERS: Readonly<Record<Question['sort'], ((a: ListedClip, b: ListedClip) => number) | null>> = {
  best: null,
  name: (a, b) => a.name.localeCompare(b.name),
  seconds: (a, b) => a.facts.seconds - b.facts.seconds,
  travel: (a, b) => a.facts.travelMetres - b.facts.travelMetres,
};

/** The clips and bodies of a folder of files, by id and by words. Files of the same content are one entry. */
export class Catalogue {
  private readonly entries = new Map<string, Entry>();
  private readonly byPath = new Map<string, string>();
  private readonly clips = new Map<string, ListedClip>();
  private readonly bodies = new Map<string, ListedBody>();
  private readonly figures = new Map<string, Preview>();
  private readonly index = new ClipIndex();

  get size(): number {
    return this.clips.size;
  }

  /** Takes in a measured file, in place of what was known of it. */
  put(file: FileAt, measured: Measured): void {
    this.remove(file.path);
    this.byPath.set(file.path, measured.source);
    const cached = this.entries.get(measured.source);
    if (cached) return void cached.files.push(file);
    this.entries.set(measured.source, { measured, files: [file] });
    for (const clip of measured.clips) this.clips.set(clip.id, clip);
    for (const body of measured.bodies) this.bodies.set(body.id, body);
    for (const { id, ...preview } of measured.previews) this.figures.set(id, preview);
    this.index.add(measured.clips.map((clip) => ({ ...clip, tags: foldersOf(file.name) })));
  }

  /** Forgets a file; what another file of the same content holds stays. */
  remove(path: string): void {
    const source = this.byPath.get(path);
    if (source === undefined) return;
    this.byPath.delete(path);
    const { measured, files } = defined(this.entries.get(source));
    files.splice(
      files.findIndex((f) => f.path === path),
      1,
    );
    if (files.length > 0) return;
    this.entries.delete(source);
    for (const { id } of measured.clips) {
      this.clips.delete(id);
      this.figures.delete(id);
      this.index.remove(id);
    }
    for (const { id } of measured.bodies) this.bodies.delete(id);
  }

  readonly clip = (id: string): ListedClip | undefined => this.clips.get(id);
  readonly preview = (id: string): Preview | undefined => this.figures.get(id);
  readonly body = (id: string): ListedBody | undefined => this.bodies.get(id);

  /** The file that holds a source. */
  readonly fileOf = (source: string): FileAt | undefined => this.entries.get(source)?.files[0];

  /** The bodies with a skin: characters. */
  characters(): ListedBody[] {
    return [...this.bodies.values()].filter((b) => b.skinned).sort((a, b) => a.name.localeCompare(b.name));
  }

  /** Answers a question with a page of clips. */
  search({ words, filters, tag, sort, page, per }: Question): Found {
    let matches = this.index.search(words, filters).map((id) => defined(this.clips.get(id)));
    if (tag !== '') matches = matches.filter((c) => foldersOf(c.file).includes(tag));
    const order = ORDERS[sort];
    if (order) matches.sort(order);
    return { total: matches.length, clips: matches.slice((page - 1) * per, page * per) };
  }
}
