import Joi from 'joi';
import type { ChoiceLimits, Chosen } from './choice';
import { chosenSchema, limitsSchema } from './choice';
import type { Curve } from '../math/curve';
import type { Entity } from './fields';
import { kindsSchema, plainOf, scaledFields, setting } from './fields';
import type { FloorPlace, Nudge } from './floor';
import { finite, handles, place, points, text, yes } from './rules';

/** The fits that have a name. */
const NAMED_FITS = [
  'planted foot',
  'whole body',
  'hips',
  'left foot',
  'right foot',
  'left hand',
  'right hand',
  'free',
] as const;

/** How an incoming segment is placed on the outgoing one. */
export type FitMode = (typeof NAMED_FITS)[number] | { readonly joint: string } | { readonly pin: FloorPlace };

const nudge = { x: finite, z: finite, turn: finite };

/** What is known of every seam. */
export const SEAM_FIELDS = {
  fit: setting<FitMode>(
    'whole body',
    Joi.alternatives(
      Joi.valid(...NAMED_FITS),
      Joi.object({ joint: text.required() }),
      Joi.object({ pin: place.required() }),
    ),
    { cue: 'part' },
  ),
  /** Whether the direction is matched too. */
  facing: setting<boolean>(true, yes, { cue: 'part' }),
  /** Whether the height is matched too, as on stairs. */
  height: setting<boolean>(false, yes, { since: 2, cue: 'part' }),
  /** The user's own move on top of the fit, in the incoming root's directions (x left, z forward). */
  nudge: setting<Nudge>(
    { x: 0, z: 0, turn: 0 },
    Joi.object({ x: nudge.x.required(), z: nudge.z.required(), turn: nudge.turn.required() }),
    { cue: 'part', cueSchema: Joi.object() },
  ),
  /** What fills a gap before the segment: the last pose, the rest pose, or a move from the one pose to the other. */
  gap: setting<'hold' | 'rest' | 'ease'>('hold', Joi.valid('hold', 'rest', 'ease'), { since: 4 }),
  /** Whether it is chosen anew wherever the join is made or changed; else it is the user's own. */
  auto: setting<boolean>(false, yes, { since: 6, called: 'choice' }),
  /** What was chosen last; null where nothing was. */
  chosen: setting<Chosen | null>(null, chosenSchema.allow(null), { since: 6, called: 'choice' }),
  /** What its choice keeps to; null as the scene says. */
  limits: setting<ChoiceLimits | null>(null, limitsSchema.allow(null), {
    since: 6,
    called: 'limits of the choice',
  }),
};

const CROSSFADE_FIELDS = {
  curve: setting<Curve>('smooth', Joi.alternatives(Joi.valid('smooth', 'linear'), handles), {
    cue: 'part',
    cueSchema: Joi.alternatives(Joi.valid('smooth', 'linear'), points.min(1)),
  }),
  /** Whether both sides are bent in time within the overlap so that their steps fall together. */
  inStep: setting<boolean>(false, yes, { cue: 'part' }),
};

const CUT_FIELDS = {};

const SETTLE_FIELDS = {
  /** Frames in which the difference to the outgoing motion decays. */
  frames: setting<number>(9, Joi.number().integer().min(1).max(10_000), {
    cue: 'part',
    scaled: (frames, factor) => Math.max(1, Math.round(frames * factor)),
  }),
};

/** When a foot leaves the floor and when it lands, frames from the start of its seam. */
export type FootfallTimes = readonly [leaves: number, lands: number];

const times = Joi.array()
  .ordered(Joi.number().min(0).max(10_000).required(), Joi.number().min(0).max(10_000).required())
  .custom(([leaves, lands]: [number, number], helpers) =>
    leaves < lands ? [leaves, lands] : helpers.error('any.invalid'),
  )
  .messages({ 'any.invalid': 'has a foot that lands before it leaves' });

/** Where a foot lands: metres to the left and forward of where it would, by the root's direction at the end of its seam. */
export interface LandingPlace {
  readonly x: number;
  readonly z: number;
}

/** Metres by which a foot lands elsewhere at most: no leg reaches further. */
export const MAX_LANDING = 2;

const shift = Joi.number().min(-MAX_LANDING).max(MAX_LANDING).required();

const STEP_FIELDS = {
  /** The user's own times of footfalls, by the role of the foot; those of the other feet are found. */
  footfalls: setting<Readonly<Record<string, FootfallTimes>>>(
    {},
    Joi.object().pattern(Joi.string().max(100), times),
    {
      cue: 'part',
      scaled: (footfalls, factor) =>
        Object.fromEntries(
          Object.entries(footfalls).map(([role, [a, b]]) => [role, [a * factor, b * factor] as const]),
        ),
    },
  ),
  /** Where feet land elsewhere than the incoming clip has them, by the role of the foot; until they next leave the floor. */
  landings: setting<Readonly<Record<string, LandingPlace>>>(
    {},
    Joi.object().pattern(Joi.string().max(100), Joi.object({ x: shift, z: shift })),
    { since: 8, cue: 'part' },
  ),
};

/** The kinds of seams, and what is known of each beside what all of them have. */
export const JOIN_KINDS = {
  cut: CUT_FIELDS,
  crossfade: CROSSFADE_FIELDS,
  settle: SETTLE_FIELDS,
  step: STEP_FIELDS,
};

/** A cut: the one motion ends and the other begins. */
export interface Cut {
  readonly kind: 'cut';
}

/** A crossfade over the frames that both segments share. */
export type Crossfade = { readonly kind: 'crossfade' } & Entity<typeof CROSSFADE_FIELDS>;

/** A cut after which the difference to the outgoing motion decays. */
export type Settling = { readonly kind: 'settle' } & Entity<typeof SETTLE_FIELDS>;

/** A made step over the frames that both segments share: feet step from the old stance to the new one. */
export type Stepping = { readonly kind: 'step' } & Entity<typeof STEP_FIELDS>;

/** How the two motions go over into each other. */
export type Join = Cut | Crossfade | Settling | Stepping;

/** What all seams have: how the incoming segment is placed, and what fills a gap. */
export type SeamPlacing = Entity<typeof SEAM_FIELDS>;

/** The join to the segment before; the first segment of a lane keeps it unused. */
export type Seam = SeamPlacing & Join;

/** The rule of a seam. */
export const seamSchema = kindsSchema(
  Object.fromEntries(Object.entries(JOIN_KINDS).map(([kind, own]) => [kind, { ...SEAM_FIELDS, ...own }])),
);

/** A crossfade unless asked otherwise. */
export const PLAIN_CROSSFADE: Crossfade = { kind: 'crossfade', ...plainOf(CROSSFADE_FIELDS) };

/** A step whose footfalls are all found. */
export const PLAIN_STEP: Stepping = { kind: 'step', ...plainOf(STEP_FIELDS) };

const CUT: Cut = { kind: 'cut' };

/** The seam that a new segment gets. */
export const PLAIN_SEAM: Seam = { ...plainOf(SEAM_FIELDS), ...PLAIN_CROSSFADE };

/**
 * How a seam joins segments that share so many frames. What shares frames is crossfaded, unless a step is made there; without
 * any it settles or is a cut.
 */
export function joinOf(seam: Seam, overlap: number): Join {
  if (overlap > 0) return seam.kind === 'crossfade' || seam.kind === 'step' ? seam : PLAIN_CROSSFADE;
  return seam.kind === 'settle' ? seam : CUT;
}

/** A seam with other values, and joined in another way where `join` says so. */
export function withSeam(seam: Seam, values: Partial<SeamPlacing>, join: Join = seam): Seam {
  const names = Object.keys(SEAM_FIELDS) as (keyof SeamPlacing)[];
  const placing = Object.fromEntries(
    names.map((name) => [name, values[name] === undefined ? seam[name] : values[name]]),
  );
  const joins = Object.keys(JOIN_KINDS[join.kind]) as (keyof Join)[];
  const joined = Object.fromEntries((['kind', ...joins] as (keyof Join)[]).map((name) => [name, join[name]]));
  return { ...placing, ...joined } as unknown as Seam;
}

/** A seam at `factor` times as many frames a second. */
export const scaledSeam = (seam: Seam, factor: number): Seam =>
  scaledFields(seam, JOIN_KINDS[seam.kind], factor);
