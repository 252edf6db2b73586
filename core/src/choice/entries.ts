import type { Clip } from '../clip/clip';
import type { Memory } from '../memory/memory';
import { legsOf } from '../skeleton/legs';
import { restHeight } from '../skeleton/skeleton';
import type { Moments } from './poseFeatures';
import { FEATURES, featureDistance, poseFeatures } from './poseFeatures';

/** How a clip begins: what is to be known of it to rank it among thousands without reading its file. */
export interface ClipEntry {
  /** Number of legs of its body; a clip follows those of like bodies alone. */
  readonly legs: number;
  /** Moments of its first second x features, in heights of its body, so that bodies of any size compare. */
  readonly features: Float32Array;
}

/** Seconds of the end of the one, and of the beginning of the other, that are compared. */
export const REACH_SECONDS = 1;

/** How a clip begins. */
export function clipEntry(clip: Clip, memory: Memory): ClipEntry {
  const moments = poseFeatures(clip, memory);
  const count = Math.min(moments.count, Math.ceil((REACH_SECONDS * clip.rate) / moments.step) + 1);
  return { legs: legsOf(clip.skeleton).length, features: inHeights(moments, 0, count, clip) };
}

/**
 * Ranks clips by how well they seem to follow a clip at a sample: by the least distance of any moment of the second around it from
 * any of their first second. Some ten million distances, a tenth of a second or so, for five thousand clips.
 *
 * @returns the numbers of the entries, best first; those of other bodies are left out
 */
export function rankEntries(
  before: Clip,
  at: number,
  entries: readonly ClipEntry[],
  memory: Memory,
): number[] {
  const moments = poseFeatures(before, memory);
  const reach = REACH_SECONDS * before.rate;
  const first = Math.max(0, Math.ceil((at - reach) / moments.step));
  const end = Math.min(moments.count, Math.floor((at + reach) / moments.step) + 1);
  const leaving = inHeights(moments, Math.min(first, end - 1), end, before);
  const legs = legsOf(before.skeleton).length;
  const distances = entries.map((entry) =>
    entry.legs === legs ? leastOf(leaving, entry.features) : Infinity,
  );
  return Array.from(distances.keys())
    .filter((i) => distances[i]! < Infinity)
    .sort((i, j) => distances[i]! - distances[j]!);
}

function leastOf(a: Float32Array, b: Float32Array): number {
  let least = Infinity;
  for (let i = 0; i < a.length / FEATURES; i++)
    for (let j = 0; j < b.length / FEATURES; j++) least = Math.min(least, featureDistance(a, i, b, j));
  return least;
}

const inHeights = ({ features }: Moments, first: number, end: number, clip: Clip): Float32Array => {
  const height = restHeight(clip.skeleton) || 1;
  return features.slice(first * FEATURES, end * FEATURES).map((v) => v / height);
};
