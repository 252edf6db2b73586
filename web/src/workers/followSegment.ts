import type { Clip, Plan, SegmentPlan } from '@warper/core';
import { clipThatSuits, defined, rankEntries, rankFollowers } from '@warper/core';
import type { StoredEntry } from './kept';
import type { Following } from './protocol';

/** Clips whose best pair is looked for exactly. */
export const EXACT = 20;

/** A segment of a plan; null where it is gone. */
function segmentOf(plan: Plan, id: string): SegmentPlan | null {
  for (const { segments } of plan.characters) {
    const segment = segments.find((s) => s.id === id);
    if (segment) return segment;
  }
  return null;
}

/** The last sample of a segment, behind which others are to follow. */
const lastSample = ({ clip, out }: SegmentPlan): number => Math.min(clip.frames, out) - 1;

/** Ranks the clips of a library by how well they seem to follow a segment, best first; those of other bodies are left out. */
export function rankByEntries(plan: Plan, id: string, entries: readonly StoredEntry[]): Following[] {
  const segment = segmentOf(plan, id);
  const memory = plan.characters[0]?.memory;
  if (!segment || !memory) return [];
  return rankEntries(segment.clip, lastSample(segment), entries, memory).map((i) => ({
    clip: defined(entries[i]).id,
    distanceCm: null,
  }));
}

/** The same with the best compared exactly, as far as their clips are open; what does not suit the body is left out. */
export function followSegment(
  plan: Plan,
  id: string,
  ranked: readonly Following[],
  clips: readonly Clip[],
): Following[] {
  const segment = segmentOf(plan, id);
  const memory = plan.characters[0]?.memory;
  if (!segment || !memory) return [];
  const byId = new Map(clips.map((clip) => [clip.id, clip]));
  const idOf = new Map<Clip, string>();
  const unfit = new Set<string>();
  const fitting = ranked.slice(0, EXACT).flatMap(({ clip: name }): Clip[] => {
    const clip = byId.get(name);
    const fitted = clip && clip.frames > 1 ? clipThatSuits(clip, segment.clip.skeleton, memory) : null;
    if (clip && !fitted) unfit.add(name);
    if (fitted) idOf.set(fitted, name);
    return fitted ? [fitted] : [];
  });
  const best = rankFollowers(segment.clip, lastSample(segment), fitting, memory).map(
    ({ clip, pair }): Following => ({
      clip: idOf.get(clip) ?? clip.id,
      distanceCm: pair && pair.distanceCm,
    }),
  );
  const compared = new Set(best.map((f) => f.clip));
  return [...best, ...ranked.filter((f) => !compared.has(f.clip) && !unfit.has(f.clip))];
}
