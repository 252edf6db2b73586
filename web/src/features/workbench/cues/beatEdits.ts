import type { Edit, Plan, Segment } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { parseNumber } from '../../../ui/parseNumber';
import { parseSeam, seamEdits } from './cueRows';

/** What was typed into a cell: the edit that it asks for, or how it is to be written. */
export type Typed = { readonly edit: Edit } | { readonly hint: string };

type Rate = Plan['rate'];

const numberIn = (text: string, rate: Rate): number | null =>
  parseNumber(text.trim(), { framesPerSecond: framesPerSecond(rate) });

/** Repeats as they are typed: `3`, `x 1.5`. */
export function typedRepeat({ id, loop }: Segment, text: string, rate: Rate): Typed {
  const repeat = numberIn(text.replace(/^[x×]/i, ''), rate);
  if (repeat === null || !(repeat > 0)) return { hint: 'Repeats are a number above zero, such as 3 or 1.5.' };
  const values = { repeat, loop: loop || repeat !== 1, length: null };
  return { edit: { type: 'change', segment: id, values } };
}

/** A length as it is typed: `90`, `2s`; what is held at the ends is part of it. */
export function typedLength({ id, hold }: Segment, text: string, rate: Rate): Typed {
  const frames = numberIn(text, rate);
  const held = hold.start + hold.end;
  if (frames === null || frames - held < 1)
    return { hint: 'A length is in frames, or in seconds such as 2s.' };
  return { edit: { type: 'change', segment: id, values: { length: Math.round(frames) - held } } };
}

/** A seam as it is typed: `cut`, `crossfade 8`, `settle 9`. */
export function typedSeam({ id, name }: Segment, text: string, rate: Rate): Typed {
  const asked = parseSeam(text);
  if (!asked) return { hint: 'Write cut, crossfade 8 or settle 9.' };
  return {
    edit: { type: 'several', label: `seam before ${name}`, edits: seamEdits(id, asked, rate) },
  };
}

/** A beat with the lane that it is on. */
export interface Beat {
  readonly id: string;
  readonly lane: string;
}

/**
 * The edit that moves a beat to where another one is: behind it where it comes from before it on the same lane, else before it.
 *
 * @param over the beat that it was let go on, or only a lane for its end
 */
export function movedBeat(
  beats: readonly Beat[],
  moved: string,
  over: Beat | { readonly id: null; readonly lane: string },
): Edit | null {
  const lane = beats.filter((b) => b.lane === over.lane);
  const from = lane.findIndex((b) => b.id === moved);
  const to = lane.findIndex((b) => b.id === over.id);
  if (over.id === moved) return null;
  const before = over.id === null ? null : from >= 0 && from < to ? (lane[to + 1]?.id ?? null) : over.id;
  return { type: 'reorder', segment: moved, lane: over.lane, before };
}

/** The edit that moves a beat one place up or down; null at the end of its lane. */
export function steppedBeat(beats: readonly Beat[], moved: Beat, way: -1 | 1): Edit | null {
  const lane = beats.filter((b) => b.lane === moved.lane);
  const other = lane[lane.findIndex((b) => b.id === moved.id) + way];
  return other ? movedBeat(beats, moved.id, other) : null;
}
