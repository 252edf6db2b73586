import Joi from 'joi';
import { count, frame, scaledFrames } from './rules';

/** The hands that a layer can hold in their place. */
export const CONTACT_HANDS = ['leftHand', 'rightHand'] as const;

/** A hand that stays on the place and in the direction of the scene that it has at the first frame, whatever else moves. */
export interface Contact {
  readonly hand: (typeof CONTACT_HANDS)[number];
  /** Frames [start, end) in which it is held; it is taken there, and let go, within them. */
  readonly start: number;
  readonly end: number;
  readonly fadeIn: number;
  readonly fadeOut: number;
}

/** How a hand is taken to its place, and let go, unless asked otherwise. */
export const PLAIN_CONTACT = { fadeIn: 0, fadeOut: 6 } as const;

/** The rule of a contact. */
export const contactSchema = Joi.object({
  hand: Joi.valid(...CONTACT_HANDS).required(),
  start: frame.required(),
  end: frame.greater(Joi.ref('start')).required(),
  fadeIn: count.required(),
  fadeOut: count.required(),
});

/** Contacts when a second has `factor` times as many frames. */
export const scaledContacts = (contacts: readonly Contact[], factor: number): readonly Contact[] =>
  contacts.map(({ hand, start, end, fadeIn, fadeOut }) => {
    const first = scaledFrames(start, factor);
    return {
      hand,
      start: first,
      end: Math.max(first + 1, scaledFrames(end, factor)),
      fadeIn: scaledFrames(fadeIn, factor),
      fadeOut: scaledFrames(fadeOut, factor),
    };
  });
