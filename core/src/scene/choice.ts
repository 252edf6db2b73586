import Joi from 'joi';
import type { Entity } from './fields';
import { plainOf, schemaOf, setting } from './fields';
import { finite, text, yes } from './rules';

/** What a choice of a join keeps to. */
export const CHOICE_FIELDS = {
  /** Seconds by which either end may move. */
  within: setting<number>(1, Joi.number().min(0).max(3600)),
  /** Whether both segments together keep their length. */
  keepLength: setting<boolean>(false, yes),
  /** Whether the outgoing segment ends, and the incoming one begins, where it does. */
  keepEnd: setting<boolean>(false, yes),
  keepStart: setting<boolean>(false, yes),
  /** Whether the same feet have to be planted on both sides. */
  sameFeet: setting<boolean>(false, yes),
  /** Whether a step may be made. */
  steps: setting<boolean>(true, yes),
  /** Whether another clip may be put between the two. */
  bridges: setting<boolean>(true, yes),
};

/** Limits of the choice of a join. */
export type ChoiceLimits = Entity<typeof CHOICE_FIELDS>;

/** The limits unless the user sets others. */
export const PLAIN_LIMITS: ChoiceLimits = plainOf(CHOICE_FIELDS);

/** The rule of limits. */
export const limitsSchema = schemaOf(CHOICE_FIELDS);

/** What was chosen for a join, and why. */
export interface Chosen {
  /** Frames of the outgoing segment, from its start, and of the incoming clip's samples, that meet in the middle. */
  readonly out: number;
  readonly in: number;
  readonly overlap: number;
  readonly kind: string;
  readonly fit: string;
  readonly why: string;
  /** Frames by which the choice made the outgoing and the incoming segment longer, negative where shorter. */
  readonly changed: { readonly out: number; readonly in: number };
}

/** The rule of what was chosen. */
export const chosenSchema = Joi.object({
  out: finite.required(),
  in: finite.required(),
  overlap: finite.required(),
  kind: text.required(),
  fit: text.required(),
  why: Joi.string().max(1000).required(),
  changed: Joi.object({ out: finite.required(), in: finite.required() }).required(),
});
