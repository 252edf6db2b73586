import type { CharacterPlan, FrameSpan, Plan, SegmentPlan } from '@warper/core';
import type { Selection } from '../../store/sessionState';

/** A selection on the timeline: who performs it, and in which frames. */
export interface SelectionSpan extends FrameSpan {
  readonly character: CharacterPlan;
}

/**
 * The frames of what is in hand: of a layer within its span, of a segment or several of one character, of a seam with what it overlaps, or of all that a
 * character does. Null for what has none.
 */
export function spanOf(plan: Plan, selection: Selection): SelectionSpan | null {
  if (selection.kind === 'character') {
    const character = plan.characters.find((c) => c.character.id === selection.id);
    return character
      ? { character, from: character.start, to: Math.max(character.start + 1, character.end) }
      : null;
  }
  if (selection.kind === 'layer') {
    const character = plan.characters.find((c) => c.layers.some((l) => l.id === selection.id));
    const span = character?.layers.find((l) => l.id === selection.id)?.span;
    return character
      ? {
          character,
          from: span?.start ?? character.start,
          to: span?.end ?? Math.max(character.start + 1, character.end),
        }
      : null;
  }
  if (selection.kind !== 'segment' && selection.kind !== 'seam') return null;
  const ids = new Set([selection.id, ...((selection.kind === 'segment' && selection.with) || [])]);
  for (const character of plan.characters) {
    const segments = [character, ...character.layers].flatMap((row) =>
      row.segments.filter((s) => ids.has(s.id)),
    );
    const [first] = segments;
    if (!first) continue;
    if (selection.kind === 'seam') return { character, ...seamSpan(first) };
    const from = Math.min(...segments.map((s) => s.start));
    return { character, from, to: Math.max(...segments.map((s) => s.end)) };
  }
  return null;
}

/** The frames in which two motions go over into each other; a cut has one. */
const seamSpan = ({ start, overlap, settle }: SegmentPlan): FrameSpan => ({
  from: start,
  to: start + Math.max(1, overlap || (settle?.frames ?? 0)),
});
