import type { Clip, Library, Scene, Segment, Skeleton, Span } from '@warper/core';
import {
  PLAIN_SEAM,
  PLAIN_CHARACTER,
  PLAIN_LANE,
  PLAIN_SEGMENT,
  emptyScene,
  fixedLibrary,
} from '@warper/core';

/** A segment that plays a whole clip, fitted by the planted foot. */
export const segmentOf = (clip: Clip, id: string, values: Partial<Segment> = {}): Segment => ({
  ...PLAIN_SEGMENT,
  id,
  name: clip.name,
  clip: clip.id,
  out: clip.frames,
  seam: { ...PLAIN_SEAM, fit: 'planted foot' },
  ...values,
});

/** A scene of one character at 30 frames a second. */
export const sceneOf = (segments: readonly Segment[], footLock = false): Scene => ({
  ...emptyScene('test'),
  characters: { c: { ...PLAIN_CHARACTER, id: 'c', name: 'Keeper', body: 'body', footLock } },
  characterOrder: ['c'],
  lanes: { l: { ...PLAIN_LANE, id: 'l', kind: 'body', character: 'c', segments: segments.map((s) => s.id) } },
  laneOrder: ['l'],
  segments: Object.fromEntries(segments.map((s) => [s.id, s])),
});

/** A library of clips and one body. */
export const libraryOf = (clips: readonly Clip[], body: Skeleton): Library =>
  fixedLibrary({ clip: (id) => clips.find((c) => c.id === id), body: () => body });

/** Samples, not next to an edge of the known spans, that are in both, in the known, and in the found spans. */
export function agreement(
  expected: readonly Span[],
  matches: readonly Span[],
  frames: number,
): { both: number; known: number; found: number } {
  const on = (spans: readonly Span[], f: number): boolean => spans.some((s) => f >= s.start && f < s.end);
  const edge = (f: number): boolean =>
    expected.some((s) => Math.abs(f - s.start) <= 1 || Math.abs(f - (s.end - 1)) <= 1);
  const counts = { both: 0, known: 0, found: 0 };
  for (let f = 0; f < frames; f++) {
    if (edge(f)) continue;
    const [k, d] = [on(expected, f), on(matches, f)];
    if (k) counts.known++;
    if (d) counts.found++;
    if (k && d) counts.both++;
  }
  return counts;
}

/** The value below which a share of a list lies. */
export const percentile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))]!;

/** Numbers from 0 to 1, the same each time (a linear congruence; Knuth, The Art of Computer Programming 2, 3.2.1). */
export function seeded(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 1103515245 + 12345) % 2147483648) / 2147483648;
}
