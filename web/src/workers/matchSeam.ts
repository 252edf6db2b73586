import type { Match, Plan, SegmentPlan, Span } from '@warper/core';
import { InputError, matchClipsSteps, defined } from '@warper/core';

/** The moments that were compared around a seam, and how alike they are. */
export interface SeamMatch extends Match {
  readonly outgoing: Span;
  readonly incoming: Span;
}

/** Compares the moments around the seam before a segment; yields the finished share. */
export function* matchSeam(plan: Plan, segment: string, top: number): Generator<number, SeamMatch> {
  for (const { segments, memory } of plan.characters) {
    const i = segments.findIndex((s) => s.id === segment);
    if (i < 1) continue;
    const [before, after] = [defined(segments[i - 1]), defined(segments[i])];
    const spans = nearSeam(before, after);
    const match = yield* matchClipsSteps(before.clip, after.clip, { ...spans, top }, memory);
    return { ...match, ...spans };
  }
  throw new InputError('no-seam', 'The seam is no longer there.', { hint: 'Choose another one.' });
}

/** The samples within a second of a seam; of a loop that comes in only its first, since its cycle is to stay. */
function nearSeam(outgoing: SegmentPlan, incoming: SegmentPlan): { outgoing: Span; incoming: Span } {
  const second = (plan: SegmentPlan): number => Math.round(plan.clip.rate);
  const around = (at: number, plan: SegmentPlan): Span => ({
    start: Math.max(0, at - second(plan)),
    end: Math.min(plan.clip.frames, at + second(plan)),
  });
  const into = Math.floor(incoming.in);
  const from = Math.ceil(outgoing.in);
  return {
    outgoing: outgoing.loop
      ? { start: from, end: from + outgoing.period }
      : around(Math.ceil(outgoing.out), outgoing),
    incoming: incoming.loop ? { start: into, end: into + 1 } : around(into, incoming),
  };
}
