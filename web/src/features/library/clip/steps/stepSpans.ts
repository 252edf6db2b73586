import type { Clip, OwnSteps, Span } from '@warper/core';
import { findSteps, roleWords, defined } from '@warper/core';

/** The planted spans of one joint, as a row that is edited. */
export interface StepRow {
  readonly joint: string;
  readonly label: string;
  readonly spans: readonly Span[];
}

/** Samples that a new step takes, where there is room. */
const NEW_STEP_SECONDS = 0.3;

/** The rows of a clip: a joint each, left before right. */
export function stepRows(clip: Clip): StepRow[] {
  return findSteps(clip).joints.map(({ joint, role, spans }) => ({
    joint: defined(clip.skeleton.names[joint]),
    label: roleWords(role),
    spans,
  }));
}

/** Rows as a clip keeps them. */
export const asOwnSteps = (rows: readonly StepRow[]): OwnSteps =>
  Object.fromEntries(rows.map((r) => [r.joint, r.spans.map((s) => [s.start, s.end] as const)]));

/** Moves an end of a step; it stops a sample before its own other end and at its neighbours, and stays within the clip. */
export function moveEnd(
  spans: readonly Span[],
  index: number,
  end: 'start' | 'end',
  to: number,
  frames: number,
): Span[] {
  const span = defined(spans[index]);
  const least = end === 'start' ? (index > 0 ? defined(spans[index - 1]).end + 1 : 0) : span.start + 1;
  const most =
    end === 'start' ? span.end - 1 : index + 1 < spans.length ? defined(spans[index + 1]).start - 1 : frames;
  const value = Math.min(most, Math.max(least, Math.round(to)));
  return spans.map((s, i) => (i === index ? { ...s, [end]: value } : s));
}

/** Adds a step that begins at a sample; null where there is one already, or no room. */
export function addStep(
  spans: readonly Span[],
  at: number,
  clip: Pick<Clip, 'frames' | 'rate'>,
): Span[] | null {
  const start = Math.round(at);
  if (start < 0 || start >= clip.frames) return null;
  const next = spans.findIndex((s) => s.end >= start);
  const after = next < 0 ? undefined : defined(spans[next]);
  if (after && after.start <= start) return null;
  const room = after ? after.start - 1 : clip.frames;
  const end = Math.min(room, start + Math.max(1, Math.round(NEW_STEP_SECONDS * clip.rate)));
  if (end <= start) return null;
  return [...spans, { start, end }].sort((a, b) => a.start - b.start);
}

/** Takes a step away. */
export const removeStep = (spans: readonly Span[], index: number): Span[] =>
  spans.filter((_, i) => i !== index);
