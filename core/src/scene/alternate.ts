import Joi from 'joi';
import type { Difference } from './differences';
import type { Entity } from './fields';
import { given, plainOf, setting } from './fields';
import { frame, id, ids, text } from './rules';

/** Alternates that a scene may have: each edit is carried out in all of them. */
export const MOST_ALTERNATES = 12;

/**
 * What may differ in an alternate: frames [from, to) of some characters; or of all of them, with what is said, heard and filmed in these
 * frames. Edits of it are the alternate's own; all others show in every alternate.
 */
export interface AlternateScope {
  readonly from: number;
  readonly to: number;
  /** Character ids; null for everything there. */
  readonly characters: readonly string[] | null;
}

/** The rule of a scope. */
export const scopeSchema = Joi.object({
  from: frame.required(),
  to: frame.greater(Joi.ref('from')).required(),
  characters: ids.min(1).allow(null).required(),
});

/** What all alternates of a scene share whatever happens. */
const SHARED = ['format', 'version', 'name', 'rate', 'alternates', 'alternateOrder'];

const difference = Joi.object({
  op: Joi.valid('add', 'remove', 'replace').required(),
  path: Joi.array()
    .ordered(
      Joi.string()
        .invalid(...SHARED)
        .required(),
    )
    .items(Joi.string().max(300), Joi.number().integer().min(0))
    .required(),
  value: Joi.any(),
});

/** What is known of an alternate. */
export const ALTERNATE_FIELDS = {
  id: given<string>(id),
  name: given<string>(text),
  comment: setting<string>('', Joi.string().max(5000).allow('')),
  /** What may differ; null the whole scene. */
  scope: setting<AlternateScope | null>(null, scopeSchema.allow(null)),
  /** What leads to it from the scene in hand; null for the one that is in hand. */
  differences: setting<readonly Difference[] | null>(
    null,
    Joi.array().items(difference).max(1_000_000).allow(null),
  ),
};

/** Another version of the same scene, kept beside it; one of them is the scene in hand. */
export type Alternate = Entity<typeof ALTERNATE_FIELDS>;

/** What an alternate is unless asked otherwise. */
export const PLAIN_ALTERNATE = plainOf(ALTERNATE_FIELDS);
