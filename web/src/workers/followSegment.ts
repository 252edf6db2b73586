import type { Clip, Plan } from '@warper/core';
import { clipThatSuits, rankFollowers } from '@warper/core';
import type { Following } from './protocol';

/** Ranks clips by how well they follow a segment; those that do not suit its body are left out. */
export function followSegment(plan: Plan, segment: string, clips: readonly Clip[]): Following[] {
  for (const { segments, memory, skeleton } of plan.characters) {
    const before = segments.find((s) => s.id === segment);
    if (!before) continue;
    /** The clips as the body has them, and which they are. */
    const idOf = new Map<Clip, string>();
    const fitting = clips.flatMap((clip): Clip[] => {
      const fitted = clip.frames < 2 ? null : clipThatSuits(clip, skeleton, memory);
      if (fitted) idOf.set(fitted, clip.id);
      return fitted ? [fitted] : [];
    });
    const at = Math.min(before.clip.frames, before.out) - 1;
    return rankFollowers(before.clip, at, fitting, memory).map(({ clip, pair }) => ({
      clip: idOf.get(clip) ?? clip.id,
      distanceCm: pair && pair.distanceCm,
    }));
  }
  return [];
}
