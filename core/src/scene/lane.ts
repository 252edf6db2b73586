import Joi from 'joi';
import { DIALS } from '../clip/dials';
import type { Handle } from '../math/spline';
import type { Entity } from './fields';
import { given, plainOf, setting } from './fields';
import type { DialKeys, PoseKeys, RootKeys } from './keys';
import { ROOT_CURVES, poseKey, scaledKeyList, valueKey } from './keys';
import type { Contact } from './contact';
import { contactSchema, scaledContacts } from './contact';
import type { Look } from './look';
import { lookSchema, scaledLook } from './look';
import { count, finite, frame, id, ids, text, weight, yes } from './rules';

const STATE_FIELDS = {
  /** Whether it is left out, as if it were empty. */
  muted: setting<boolean>(false, yes, { since: 4 }),
  /** Whether it is shown alone: lanes without it are left out while any has it, but for the body lane below a layer. */
  solo: setting<boolean>(false, yes, { since: 4 }),
  /** Whether its segments refuse to be changed. */
  locked: setting<boolean>(false, yes, { since: 4 }),
  /** Whether the timeline leaves its row out. */
  hidden: setting<boolean>(false, yes, { since: 4 }),
};

const LANE_FIELDS = {
  ...STATE_FIELDS,
  id: given<string>(id),
  character: given<string>(id),
  /** Segment ids, by start. */
  segments: setting<readonly string[]>([], ids),
};

/** A bone of a mask and its weight. */
export interface MaskEntry {
  readonly bone: string;
  readonly weight: number;
}

/** The frames in which a layer does something; it comes in and goes out within them. */
export interface LayerSpan {
  readonly start: number;
  /** The frame after its last one; null goes on to the end. */
  readonly end: number | null;
  readonly fadeIn: number;
  readonly fadeOut: number;
}

const spanSchema = Joi.object({
  start: frame.required(),
  end: frame.allow(null).required(),
  fadeIn: count.required(),
  fadeOut: count.required(),
}).custom((span: LayerSpan, helpers) =>
  span.end === null || span.end > span.start
    ? span
    : helpers.message({ custom: '{{#label}} ends before it starts' }),
);

/** What feet do where a layer moves the whole character: slide along, stay where they stand, or step after it. */
export type RootFeet = 'slide' | 'hold' | 'step';

/** What is known of a layer. */
export const LAYER_FIELDS = {
  ...LANE_FIELDS,
  name: given<string>(text),
  blend: setting<'override' | 'additive'>('override', Joi.valid('override', 'additive')),
  /** Bones (role or joint name, `*` behind it takes the chain below) and their weights; empty means the whole body. */
  mask: setting<readonly MaskEntry[]>(
    [],
    Joi.array()
      .items(Joi.object({ bone: text.required(), weight: weight.required() }))
      .max(5000),
  ),
  /** Joints from the start of a chain over which its weight grows to the full one. */
  softness: setting<number>(0, Joi.number().integer().min(0).max(100)),
  /** The layer's weight: (frame, weight 0 to 1) in order of frames, straight between them, held outside. */
  weight: setting<readonly Handle[]>(
    [],
    Joi.array().items(Joi.array().ordered(finite.required(), weight.required())).max(10_000),
    { scaled: (points, factor) => points.map(([f, w]): Handle => [f * factor, w]) },
  ),
  /** The pose that an additive clip is taken against: its first one, the rest pose, or a sample of the clip. */
  reference: setting<'first' | 'rest' | number>(
    'first',
    Joi.alternatives(Joi.valid('first', 'rest'), Joi.number().min(0).max(1e7)),
  ),
  /** How its weight goes from point to point. */
  weightShape: setting<'linear' | 'smooth'>('linear', Joi.valid('linear', 'smooth'), {
    since: 8,
    called: 'weight',
  }),
  /** When it does something; null always. */
  span: setting<LayerSpan | null>(null, spanSchema.allow(null), { since: 8, scaled: scaledSpan }),
  /** Key poses by joint name, in order of frames. */
  keys: setting<PoseKeys>(
    {},
    Joi.object().pattern(Joi.string().max(200), Joi.array().items(poseKey).max(100_000)),
    { scaled: (keys, factor) => mapValues(keys, (list) => scaledKeyList(list, factor)) },
  ),
  /** Keys that move the whole character, by curve: its directions are those of its root at the first of them. */
  rootKeys: setting<RootKeys>(
    {},
    Joi.object(
      Object.fromEntries(ROOT_CURVES.map((name) => [name, Joi.array().items(valueKey).max(100_000)])),
    ),
    { since: 8, scaled: (keys, factor) => mapValues(keys, (list) => scaledKeyList(list, factor)) },
  ),
  /** Whether what comes after the last of these keys is moved along, also after the span. */
  carriesOn: setting<boolean>(true, yes, { since: 8 }),
  rootFeet: setting<RootFeet>('step', Joi.valid('slide', 'hold', 'step'), { since: 8, called: 'feet' }),
  /** Keys of dials, on top of those of the character and its segments. */
  dialKeys: setting<DialKeys>(
    {},
    Joi.object(
      Object.fromEntries(Object.keys(DIALS).map((name) => [name, Joi.array().items(valueKey).max(100_000)])),
    ),
    { since: 10, scaled: (keys, factor) => mapValues(keys, (list) => scaledKeyList(list, factor)) },
  ),
  /** Hands that stay where they are while something else moves. */
  contacts: setting<readonly Contact[]>([], Joi.array().items(contactSchema).max(1000), {
    since: 10,
    scaled: scaledContacts,
  }),
  /** The layer that is its other side, and follows it as it follows that one; null for none. */
  pair: setting<string | null>(null, id.allow(null), { since: 11 }),
  /** What the head follows with the eyes; null nothing. */
  look: setting<Look | null>(null, lookSchema.allow(null), { since: 10, scaled: scaledLook }),
};

const mapValues = <K extends string, A, B>(
  record: Readonly<Partial<Record<K, A>>>,
  change: (value: A) => B,
): Record<K, B> =>
  Object.fromEntries(Object.entries(record).map(([name, value]) => [name, change(value as A)])) as Record<
    K,
    B
  >;

function scaledSpan(span: LayerSpan | null, factor: number): LayerSpan | null {
  if (!span) return null;
  const { start, end, fadeIn, fadeOut } = span;
  const at = (frames: number): number => Math.round(frames * factor);
  const last = end === null ? null : Math.max(at(end), at(start) + 1);
  return { start: at(start), end: last, fadeIn: at(fadeIn), fadeOut: at(fadeOut) };
}

/** The kinds of lanes, and what is known of each. */
export const LANE_KINDS = { body: LANE_FIELDS, layer: LAYER_FIELDS };

/** How a lane is treated while working. */
export type LaneState = Entity<typeof STATE_FIELDS>;

/** The row that carries the performance of one character. */
export type BodyLane = { readonly kind: 'body' } & Entity<typeof LANE_FIELDS>;

/** A row above the body lane that replaces, or adds to, what is below it on some bones. */
export type LayerLane = { readonly kind: 'layer' } & Entity<typeof LAYER_FIELDS>;

/** One row of the timeline: the performance of a character, or a layer above it. */
export type Lane = BodyLane | LayerLane;

/** What a lane is unless asked otherwise. */
export const PLAIN_LANE = plainOf(STATE_FIELDS);

/** What a layer is unless asked otherwise. */
export const PLAIN_LAYER = { kind: 'layer', ...plainOf(LAYER_FIELDS) } as const;
