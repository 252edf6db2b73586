import type { ClipFacts } from '@warper/core';
import type { Query } from 'minisearch';
import MiniSearch from 'minisearch';

/** What is looked through when clips are searched. */
export interface SearchedClip {
  readonly id: string;
  readonly name: string;
  readonly file: string;
  readonly tags: readonly string[];
  readonly facts: ClipFacts;
}

/** Travel in metres below which a clip stays in place, and turn in degrees from which on it turns. */
const MOVES = { metres: 0.05, degrees: 15 };
/** Seconds by which clips are told into short and long ones. */
const LONG_SECONDS = 2;
/** Float or sink in centimetres that is worth a look (common practice). */
const FLAW = { floatCm: 2 };

const FILTERS = {
  loopable: ({ loop, frames }: ClipFacts) =>
    frames > 1 && loop.verdict !== 'none' && loop.verdict !== 'closes',
  travels: ({ travelMetres }: ClipFacts) => travelMetres >= MOVES.metres,
  'in place': ({ travelMetres, frames }: ClipFacts) => frames > 1 && travelMetres < MOVES.metres,
  'turns left': ({ turnDegrees }: ClipFacts) => turnDegrees >= MOVES.degrees,
  'turns right': ({ turnDegrees }: ClipFacts) => turnDegrees <= -MOVES.degrees,
  'over 2 s': ({ seconds }: ClipFacts) => seconds > LONG_SECONDS,
  'up to 2 s': ({ seconds, frames }: ClipFacts) => frames > 1 && seconds <= LONG_SECONDS,
  'rest pose': ({ restPose }: ClipFacts) => restPose,
  'needs a look': ({ floatCm, jumps }: ClipFacts) => Math.abs(floatCm) >= FLAW.floatCm || jumps.length > 0,
} satisfies Record<string, (facts: ClipFacts) => boolean>;

/** Letters from which on a word is looked for among the facts too, and the fields for shorter ones. */
const LEAST_OF_FACT = 3;
const NAMES = ['name', 'tags', 'file'];
/** Searches whose results are kept. */
const MOST_RECENT = 50;

/** Facts by which clips can be filtered; several narrow each other down. */
export type ClipFilter = keyof typeof FILTERS;
export const CLIP_FILTERS = Object.keys(FILTERS) as readonly ClipFilter[];

/** The filters that a clip passes. */
export const filtersOf = (facts: ClipFacts): ClipFilter[] => CLIP_FILTERS.filter((f) => FILTERS[f](facts));

/** A word in another of its forms: "travelling" is "travel". */
const stemOf = (word: string): string => word.replace(/(?:([a-z])\1)?(?:ing|ed|es|s)$/i, '$1');

/** A word or what may have been meant by it: another form, or two letters that changed places. */
function looserQuery(word: string): Query {
  if (word.length < 4) return word;
  const swapped = Array.from(word.slice(1), (_, i) => {
    const [a = '', b = ''] = [word[i], word[i + 1]];
    return word.slice(0, i) + b + a + word.slice(i + 2);
  });
  const stem = stemOf(word);
  const forms = stem.length >= LEAST_OF_FACT && stem !== word ? [word, stem] : [word];
  return { combineWith: 'OR', queries: [...forms, { queries: swapped, combineWith: 'OR', fuzzy: false }] };
}

/**
 * Clips by the words of their names, tags, files and facts. The beginnings of words are enough, a letter may be wrong, and
 * all words must be found; a clip of just that name comes first; without words every clip is, in the order in which they came.
 */
export class ClipIndex {
  private readonly clips = new Map<string, SearchedClip>();
  /** What was found for the last words: filters, sorting and paging ask for the same words again. */
  private readonly recent = new Map<string, readonly string[]>();
  private readonly index = new MiniSearch<{
    id: string;
    name: string;
    tags: string;
    file: string;
    facts: string;
  }>({
    fields: ['name', 'tags', 'file', 'facts'],
    searchOptions: {
      boost: { name: 3, tags: 2 },
      prefix: true,
      fuzzy: (word) => (word.length > 4 ? 0.2 : false),
      combineWith: 'AND',
    },
  });

  get size(): number {
    return this.clips.size;
  }

  /** Takes in clips; those that are known already are replaced. */
  add(clips: Iterable<SearchedClip>): void {
    this.recent.clear();
    for (const clip of clips) {
      this.remove(clip.id);
      this.clips.set(clip.id, clip);
      const { id, name, file } = clip;
      this.index.add({
        id,
        name,
        file,
        tags: clip.tags.join(' '),
        facts: filtersOf(clip.facts).join(' '),
      });
    }
  }

  remove(id: string): void {
    if (!this.clips.delete(id)) return;
    this.recent.clear();
    this.index.discard(id);
  }

  /** Ids of the clips that have all the words and pass all the filters, best first. */
  search(words: string, filters: readonly ClipFilter[] = []): string[] {
    const ids = words.trim() === '' ? [...this.clips.keys()] : this.find(words);
    if (filters.length === 0) return [...ids];
    return ids.filter((id) => filters.every((f) => FILTERS[f](this.clips.get(id)!.facts)));
  }

  private find(words: string): readonly string[] {
    const cached = this.recent.get(words);
    if (cached) return cached;
    // A letter or two begin a fact of nearly every clip: they are looked for where names stand.
    const list = words.trim().split(/\s+/);
    const queries = list.map((word) =>
      word.length < LEAST_OF_FACT ? { queries: [word], fields: NAMES } : word,
    );
    const exact = this.index.search({ combineWith: 'AND', queries });
    const results =
      exact.length > 0 ? exact : this.index.search({ combineWith: 'AND', queries: list.map(looserQuery) });
    const ranked = results.map((r) => String(r.id));
    // Who writes a whole name looks for that clip, however often others have the word.
    const name = words.trim().toLowerCase();
    const isNamed = (id: string): boolean => this.clips.get(id)!.name.toLowerCase() === name;
    const ids = [...ranked.filter(isNamed), ...ranked.filter((id) => !isNamed(id))];
    const [oldest] = this.recent.keys();
    if (this.recent.size >= MOST_RECENT && oldest !== undefined) this.recent.delete(oldest);
    this.recent.set(words, ids);
    return ids;
  }
}
