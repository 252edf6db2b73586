import Joi from 'joi';
import type { Entity } from './fields';
import { given, plainOf, scaledFields, setting } from './fields';
import { frame, id, scaledFrames, text } from './rules';

const scaled = { scaled: scaledFrames };

/** What is known of a line of dialogue. */
export const LINE_FIELDS = {
  id: given<string>(id),
  text: given<string>(Joi.string().min(1).max(2000)),
  /** Who says it. */
  speaker: setting<string>('', text.allow('')),
  /** First frame, and the one after the last. */
  start: given<number>(frame, scaled),
  end: given<number>(frame.greater(Joi.ref('start')), scaled),
};

/** What somebody says, from when to when. */
export type Line = Entity<typeof LINE_FIELDS>;

/** What a line is unless asked otherwise. */
export const PLAIN_LINE = plainOf(LINE_FIELDS);

/** A line when a second has `factor` times as many frames. */
export function scaledLine(line: Line, factor: number): Line {
  const scaledOne = scaledFields(line, LINE_FIELDS, factor);
  return { ...scaledOne, end: Math.max(scaledOne.start + 1, scaledOne.end) };
}

/** Lines in the order in which they are said. */
export const linesInOrder = (lines: Readonly<Record<string, Line>>): Line[] =>
  Object.values(lines).sort((a, b) => a.start - b.start || a.end - b.end);

/** The lines that are being said at a frame. */
export const linesAt = (lines: Readonly<Record<string, Line>>, frame: number): Line[] =>
  linesInOrder(lines).filter((l) => l.start <= frame && frame < l.end);

/** A line as it is written under a picture. */
export const captionText = ({ speaker, text }: Pick<Line, 'speaker' | 'text'>): string =>
  speaker ? `${speaker}: ${text}` : text;
