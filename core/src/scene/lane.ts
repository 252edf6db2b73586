import Joi from 'joi';
import type { Handle } from '../math/spline';
import type { Entity } from './fields';
import { given, plainOf, setting } from './fields';
import { finite, frame, id, ids, text, weight, yes } from './rules';

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

/** A joint's rotation at a frame, relative to its parent; added to what is below in an additive layer. */
export interface PoseKey {
  readonly frame: number;
  /** xyzw, unit. */
  readonly rotation: readonly [number, number, number, number];
  /** How it goes on to the next key. */
  readonly curve: 'hold' | 'linear' | 'smooth';
  /** Rotation vector a frame (radians) on both sides of the key, of a smooth curve; null follows from the neighbours. */
  readonly tangent: readonly [number, number, number] | null;
}

/** Key poses by joint name, in order of frames. */
type PoseKeys = Readonly<Record<string, readonly PoseKey[]>>;

/** The rule of a key pose. */
export const poseKey = Joi.object({
  frame: frame.required(),
  rotation: Joi.array().items(Joi.number().min(-1.01).max(1.01)).length(4).required(),
  curve: Joi.valid('hold', 'linear', 'smooth').required(),
  tangent: Joi.array().items(finite).length(3).allow(null).required(),
});

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
  /** Key poses by joint name, in order of frames. */
  keys: setting<PoseKeys>(
    {},
    Joi.object().pattern(Joi.string().max(200), Joi.array().items(poseKey).max(100_000)),
    { scaled: scaledKeys },
  ),
};

function scaledKeys(keys: PoseKeys, factor: number): PoseKeys {
  const scale = (key: PoseKey): PoseKey => ({
    ...key,
    frame: Math.round(key.frame * factor),
    tangent: key.tangent && (key.tangent.map((v) => v / factor) as [number, number, number]),
  });
  return Object.fromEntries(
    Object.entries(keys).map(([joint, list]) => [
      joint,
      list.map(scale).filter((key, i, all) => key.frame !== all[i + 1]?.frame),
    ]),
  );
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
