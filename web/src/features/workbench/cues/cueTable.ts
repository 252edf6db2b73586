import type { Edit, Plan, Scene } from '@warper/core';
import { bodyLane, defined } from '@warper/core';
import Papa from 'papaparse';
import type { StoredClip } from '../../../data/db';
import { newSegment } from '../drawer/newSegment';
import { HEADINGS, parseSeam, seamEdits } from './cueRows';

/** A table of beats, read; with what could not be. */
export interface ReadTable {
  readonly edits: readonly Edit[];
  /** Sources that its clips come from. */
  readonly sources: readonly string[];
  readonly count: number;
  readonly problems: readonly string[];
}

/** What a table is read against. */
export interface TableContext {
  readonly scene: Scene;
  readonly rate: Plan['rate'];
  readonly clips: readonly StoredClip[];
  /** The character whose lane takes beats that name none. */
  readonly character: string | null;
}

type Column = (typeof HEADINGS)[number];

/** Words that head columns, by what they mean. */
const WORDS: Readonly<Record<string, Column>> = {
  character: 'character',
  who: 'character',
  clip: 'clip',
  motion: 'clip',
  repeats: 'repeats',
  repeat: 'repeats',
  times: 'repeats',
  length: 'length',
  frames: 'length',
  seam: 'seam',
  join: 'seam',
  on: 'on',
};

/**
 * Reads a table of beats, separated by tabs, commas or semicolons, with or without a line of headings (character, clip,
 * repeats, length, seam, on), into the edits that put them at the ends of the lanes. Lines that cannot be read are told
 * and left out.
 */
export function readCueTable(text: string, context: TableContext): ReadTable {
  const { data } = Papa.parse<string[]>(text.trim(), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: ['\t', ',', ';'],
  });
  const [first, ...rest] = data;
  const heads = (first ?? []).map((cell) => WORDS[cell.trim().toLowerCase()]);
  const headed = heads.includes('clip');
  const lines = headed ? rest : data;
  const columns: readonly (Column | undefined)[] = headed ? heads : guessColumns(data, context);
  const problems: string[] = [];
  const edits: Edit[] = [];
  const sources = new Set<string>();
  let character = context.character;
  let count = 0;
  lines.forEach((cells, i) => {
    const at = `Line ${i + (headed ? 2 : 1)}`;
    const cell = (column: Column): string => cells[columns.indexOf(column)]?.trim() ?? '';
    const named = cell('character');
    const owner = named ? findByName(Object.values(context.scene.characters), named) : null;
    if (named && !owner) return void problems.push(`${at}: there is no character ${named}.`);
    character = owner?.id ?? character;
    const lane = character === null ? undefined : bodyLane(context.scene, character);
    if (!lane) return void problems.push(`${at}: it names no character, and there is none to take.`);
    const clip = findByName(context.clips, cell('clip'));
    if (!clip) return void problems.push(`${at}: no clip is called “${cell('clip')}”.`);
    const line = lineEdits({ lane: lane.id, clip, cell, rate: context.rate });
    if (typeof line === 'string') return void problems.push(`${at}: ${line}`);
    edits.push(...line);
    sources.add(clip.source);
    count++;
  });
  return { edits, sources: [...sources], count, problems };
}

interface Line {
  readonly lane: string;
  readonly clip: StoredClip;
  readonly cell: (column: Column) => string;
  readonly rate: Plan['rate'];
}

/** The edits of one line, or what is wrong with it. */
function lineEdits({ lane, clip, cell, rate }: Line): Edit[] | string {
  const plain = newSegment(clip);
  const repeat = cell('repeats') === '' ? 1 : Number(cell('repeats').replace(',', '.').replace(/^[x×]/i, ''));
  if (!(repeat > 0)) return `“${cell('repeats')}” is no number of repeats.`;
  const length = cell('length') === '' ? null : Math.round(Number(cell('length').replace(/\s*f$/, '')));
  if (length !== null && !(length >= 1)) return `“${cell('length')}” is no length in frames.`;
  const seam = cell('seam') === '' ? null : parseSeam(cell('seam'));
  if (cell('seam') !== '' && !seam)
    return `“${cell('seam')}” is no seam: write cut, crossfade 8 or settle 9.`;
  const natural = Math.round((clip.facts.frames * rate.num) / rate.den / clip.facts.rate);
  const asIs = length === null || (repeat === 1 && length === natural);
  const segment = { ...plain, repeat, loop: plain.loop || repeat !== 1, length: asIs ? null : length };
  const edits: Edit[] = [{ type: 'place', lane, segment, at: 'end' }];
  if (seam) edits.push(...seamEdits(segment.id, seam, rate));
  if (/^(off|no|false|0)$/i.test(cell('on'))) edits.push({ type: 'switch', segment: segment.id, off: true });
  return edits;
}

/** The entry whose name is the one wanted, however it is written. */
export function findByName<T extends { readonly name: string }>(list: readonly T[], name: string): T | null {
  const plain = (s: string): string => s.trim().toLowerCase().replace(/\s+/g, ' ');
  return list.find((e) => e.name === name) ?? list.find((e) => plain(e.name) === plain(name)) ?? null;
}

/** Columns of a table without headings: a first one of characters' names, then clip, repeats, length, seam, on. */
function guessColumns(data: readonly string[][], { scene }: TableContext): readonly Column[] {
  const people = Object.values(scene.characters);
  const named = data.some((cells) => cells.length > 1 && findByName(people, defined(cells[0])) !== null);
  return named ? HEADINGS : HEADINGS.slice(1);
}
