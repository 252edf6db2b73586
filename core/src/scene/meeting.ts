import Joi from 'joi';
import { finite, frame, id, scaledFrames, text } from './rules';

/** The farthest that somebody can be said to meet another at, metres. */
export const MEETING_DISTANCE = 100;

/**
 * Where somebody stands to another at a frame: so far from them and so many degrees from where they face (0 in front of them, 90 to their
 * left), facing them, and turned from that by so many degrees to the left.
 */
export interface Meeting {
  /** Who is met. */
  readonly character: string;
  /** Frames after the start of the segment whose meeting it is; may lie in a later segment, which comes along. */
  readonly frame: number;
  readonly distance: number;
  readonly angle: number;
  readonly turn: number;
  /** Roles or names of two joints, the own and the other's, between which the distance is; null between the roots on the floor. */
  readonly joints: { readonly own: string; readonly other: string } | null;
}

/** The rule of a meeting. */
export const meetingSchema = Joi.object({
  character: id.required(),
  frame: frame.min(0).required(),
  distance: Joi.number().min(0).max(MEETING_DISTANCE).required(),
  angle: finite.required(),
  turn: finite.required(),
  joints: Joi.object({ own: text.required(), other: text.required() }).allow(null).required(),
});

/** A meeting when a second has `factor` times as many frames. */
export const scaledMeeting = (meeting: Meeting | null, factor: number): Meeting | null =>
  meeting && { ...meeting, frame: Math.max(0, scaledFrames(meeting.frame, factor)) };
