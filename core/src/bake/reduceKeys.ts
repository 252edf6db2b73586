import type { Clip } from '../clip/clip';
import { InputError } from '../math/errors';
import { Memory } from '../memory/memory';
import { findSteps } from '../steps/steps';
import type { KeptOfBlock } from './trackBlock';
import { BlockOfTracks } from './trackBlock';

/** Local transforms over time of joints that hang on each other: what a file holds of a motion. */
export interface LocalTracks {
  readonly frames: number;
  /** Of each joint its parent, which comes before it; -1 for a top joint. */
  readonly parents: Int32Array;
  /** joints x 3, metres: where a joint without a track of places stands below its parent. */
  readonly offsets: Float64Array;
  /** One a joint: frames x 4, xyzw, unit, each on the side of the one before. */
  readonly rotations: readonly Float32Array[];
  /** One a joint: frames x 3, metres; null for one that only turns. */
  readonly translations: readonly (Float32Array | null)[];
}

/** A joint that is to be kept more exactly over samples [start, end). */
export interface ExactSpan {
  readonly joint: number;
  readonly start: number;
  readonly end: number;
}

/** How keys are left out. */
export interface ReduceOptions {
  /** Furthest that any joint may come off its place in the world, metres; default 0.001. */
  readonly errorMetres?: number;
  /** The same over the exact spans; default 0.0002. */
  readonly exactMetres?: number;
  readonly exact?: readonly ExactSpan[];
  /** What readers do between keys: turn and move evenly, or along a cubic with the motion's own slopes. */
  readonly interpolation?: KeyInterpolation;
}

export type KeyInterpolation = 'linear' | 'cubic';

/** The keys that stay of a joint's track. */
export interface KeptKeys {
  readonly rotations: Int32Array;
  /** Null for a joint that only turns. */
  readonly translations: Int32Array | null;
}

/** What was left of tracks. */
export interface ReducedKeys {
  /** One a joint. */
  readonly joints: readonly KeptKeys[];
  readonly interpolation: KeyInterpolation;
  /** Largest distance of any joint from its place, at samples and halfway between them, metres. */
  readonly errorMetres: number;
}

/** Samples that are looked at together: what bounds the memory of a long motion. Each block begins with a key of every track. */
const BLOCK = 600;
/**
 * Share of the error up to which a joint's own keys are left out at first. What follows makes it matter little: from 0.2 to 2 the keys that
 * stay differ by 2 %.
 */
const SHARE = 0.5;

/**
 * Leaves out keys of local tracks so that every joint stays within an error of its place in the world, at samples and halfway between them.
 * Every track first keeps the fewest keys that hold it within its share of the error over the length of what hangs on it, each as far from
 * the one before as possible; then, where joints add up to more than the error, the track that adds most gets the key that is missing; then
 * keys are taken out again that turn out not to be needed. Deterministic.
 *
 * @throws InputError `reduce-error` for an error that is no length
 */
export function reduceKeys(tracks: LocalTracks, options: ReduceOptions = {}): ReducedKeys {
  const steps = reduceKeysSteps(tracks, options);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** The same in steps, each giving the finished share (0..1), so that the caller can report it or stop; see `reduceKeys`. */
export function* reduceKeysSteps(
  tracks: LocalTracks,
  options: ReduceOptions = {},
): Generator<number, ReducedKeys> {
  const { errorMetres = 0.001, exactMetres = 0.0002, exact = [], interpolation = 'linear' } = options;
  if (!(errorMetres > 0 && exactMetres > 0)) {
    throw new InputError('reduce-error', 'The error of reduced keys is a length above zero.', {
      hint: '1 mm is usual.',
    });
  }
  const kept = new KeptSoFar(tracks);
  let largest = 0;
  for (let start = 0; start === 0 || start < tracks.frames - 1; start += BLOCK) {
    const end = Math.min(start + BLOCK, tracks.frames - 1);
    const limits = { errorMetres, exactMetres: Math.min(exactMetres, errorMetres), exact };
    const block = new BlockOfTracks(tracks, start, end, limits, interpolation);
    const reduced = block.reduce(SHARE);
    largest = Math.max(largest, reduced.errorMetres);
    kept.add(reduced);
    yield (end + 1) / tracks.frames;
  }
  return { joints: kept.joints(), interpolation, errorMetres: largest };
}

/** The joints that stand on the ground in a clip, while they do. */
export const plantedSpans = (clip: Clip, memory = new Memory()): ExactSpan[] =>
  findSteps(clip, memory).joints.flatMap(({ joint, spans }) =>
    spans.map(({ start, end }) => ({ joint, start, end })),
  );

/** Keys of the blocks that are done. */
class KeptSoFar {
  private readonly turns: number[][];
  private readonly places: number[][];

  constructor(private readonly tracks: LocalTracks) {
    this.turns = tracks.rotations.map(() => []);
    this.places = tracks.rotations.map(() => []);
  }

  add({ turns, places }: KeptOfBlock): void {
    this.turns.forEach((list, j) => append(list, turns[j] ?? []));
    this.places.forEach((list, j) => append(list, places[j] ?? []));
  }

  joints(): KeptKeys[] {
    return this.tracks.rotations.map((rotations, j) => {
      const places = this.tracks.translations[j];
      return {
        rotations: constantOr(rotations, 4, this.turns[j]!),
        translations: places ? constantOr(places, 3, this.places[j]!) : null,
      };
    });
  }
}

function append(list: number[], keys: readonly number[]): void {
  for (const key of keys) if (key !== list.at(-1)) list.push(key);
}

/** A track that never changes needs its first key alone. */
function constantOr(values: Float32Array, width: number, keys: readonly number[]): Int32Array {
  const isConstant = values.every((v, i) => v === values[i % width]);
  return isConstant ? Int32Array.of(0) : Int32Array.from(keys);
}
