import Joi from 'joi';
import type { Dials } from '../clip/dials';
import { dialsSchema } from './dials';
import type { Entity } from './fields';
import { given, plainOf, setting } from './fields';
import type { FloorPlace } from './floor';
import type { Look } from './look';
import { lookSchema, scaledLook } from './look';
import type { Prop } from './prop';
import { propSchema } from './prop';
import { id, place, text, yes, scaledFrames } from './rules';

/** What is known of a body that performs. */
export const CHARACTER_FIELDS = {
  id: given<string>(id),
  name: given<string>(text),
  /** Id of the body: the file's hash and the number of the skeleton in it. */
  body: given<string>(id),
  /** One of eight hues, 0 to 7, which lane, floor path and ghost share. */
  hue: setting<number>(0, Joi.number().integer().min(0).max(7)),
  /** Where the root stands at the character's first frame; null leaves the first clip as authored. */
  start: setting<FloorPlace | null>(null, place.allow(null)),
  /** Whether planted feet are held where they stand. */
  footLock: setting<boolean>(false, yes, { since: 3 }),
  /** How much larger than its body the character is, travel included. */
  size: setting<number>(1, Joi.number().min(0.01).max(100), { since: 4 }),
  /** How it performs whatever it plays. */
  dials: setting<Dials>({}, dialsSchema, { called: 'posture', since: 9 }),
  /** What its head follows in the whole performance; null nothing. */
  look: setting<Look | null>(null, lookSchema.allow(null), { since: 11, scaled: scaledLook }),
  /** What it is, where it is a prop; null for somebody who performs. */
  prop: setting<Prop | null>(null, propSchema.allow(null), { since: 12 }),
  /** Frames before its first segment in which it eases out of the rest pose. */
  leadIn: setting<number>(0, Joi.number().integer().min(0).max(100_000), { since: 4, scaled: scaledFrames }),
  /** What is drawn of it. */
  shown: setting<'mesh' | 'bones' | 'both' | 'nothing'>(
    'mesh',
    Joi.valid('mesh', 'bones', 'both', 'nothing'),
    { since: 4 },
  ),
  /** Whether its lanes are drawn as one narrow row. */
  folded: setting<boolean>(false, yes, { since: 4 }),
};

/** A body that performs. */
export type Character = Entity<typeof CHARACTER_FIELDS>;

/** What a character is unless asked otherwise. */
export const PLAIN_CHARACTER = plainOf(CHARACTER_FIELDS);
