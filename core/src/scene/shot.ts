import Joi from 'joi';
import type { Entity } from './fields';
import { given, plainOf, scaledFields, setting } from './fields';
import { count, frame, id, scaledFrames, text } from './rules';

const scaled = { scaled: scaledFrames };

/** What is known of a shot. */
export const SHOT_FIELDS = {
  id: given<string>(id),
  name: given<string>(text),
  camera: given<string>(id),
  /** First frame, and the one after the last. */
  start: given<number>(frame, scaled),
  end: given<number>(frame.greater(Joi.ref('start')), scaled),
  /** Frames, from its first one on, in which the picture goes over from the camera of the shot before; 0 for a cut. */
  blend: setting<number>(0, count, scaled),
  comment: setting<string>('', Joi.string().max(1000).allow('')),
};

/** A stretch of the scene that is seen by one camera. */
export type Shot = Entity<typeof SHOT_FIELDS>;

/** What a shot is unless asked otherwise. */
export const PLAIN_SHOT = plainOf(SHOT_FIELDS);

/** A shot when a second has `factor` times as many frames. */
export function scaledShot(shot: Shot, factor: number): Shot {
  const scaledOne = scaledFields(shot, SHOT_FIELDS, factor);
  return { ...scaledOne, end: Math.max(scaledOne.start + 1, scaledOne.end) };
}

/** The shots in the order in which they are seen. */
export const shotsInOrder = <S extends { readonly start: number }>(shots: Readonly<Record<string, S>>): S[] =>
  Object.values(shots).sort((a, b) => a.start - b.start);
