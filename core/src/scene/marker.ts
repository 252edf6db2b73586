import Joi from 'joi';
import type { Entity } from './fields';
import { given, plainOf, setting } from './fields';
import { frame, id, ids, text } from './rules';

/** Whole frames [from, to) of the scene. */
export interface FrameSpan {
  readonly from: number;
  readonly to: number;
}

/** The rule of a span of frames. */
export const spanSchema = Joi.object({
  from: frame.required(),
  to: frame.greater(Joi.ref('from')).required(),
});

/** What is known of a marker. */
export const MARKER_FIELDS = {
  id: given<string>(id),
  name: given<string>(text),
  frame: given<number>(frame),
  /** The frame after a region's last one; null for a single frame. */
  end: setting<number | null>(null, frame.greater(Joi.ref('frame')).allow(null)),
  /** Who and what hits each other at its frame; they are drawn with it. */
  impact: setting<readonly string[]>([], ids, { since: 13 }),
};

/** What a marker is unless asked otherwise. */
export const PLAIN_MARKER = plainOf(MARKER_FIELDS);

/** A named frame of the scene, or a region from it up to `end`. */
export type Marker = Entity<typeof MARKER_FIELDS>;
