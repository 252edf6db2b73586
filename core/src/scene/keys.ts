import Joi from 'joi';
import type { Dial } from '../clip/dials';
import { finite, frame } from './rules';

/**
 * How a key is gone through and left: *hold* keeps it until the next, *linear* goes straight to the next, *smooth* takes the mean slope
 * of its neighbours, *flat* none, *free* its own.
 */
export type KeyCurve = 'hold' | 'linear' | 'smooth' | 'flat' | 'free';

export const KEY_CURVES = ['hold', 'linear', 'smooth', 'flat', 'free'] as const;

interface Key<V, T> {
  readonly frame: number;
  readonly curve: KeyCurve;
  /** Slope a frame with which a free key is left, and arrived at unless `into` says otherwise; null for the other curves. */
  readonly tangent: T | null;
  /** Slope a frame with which a free key is arrived at, where its handles are broken, or one that holds. */
  readonly into: T | null;
  readonly value: V;
}

/** A number at a frame. */
export type ValueKey = Key<number, number>;

type Triple = readonly [number, number, number];

/** A joint's rotation at a frame, relative to its parent; added to what is below in an additive layer. Slopes are rotation vectors, radians. */
export interface PoseKey extends Omit<Key<never, Triple>, 'value'> {
  /** xyzw, unit. */
  readonly rotation: readonly [number, number, number, number];
}

/** Key poses by joint name, in order of frames. */
export type PoseKeys = Readonly<Record<string, readonly PoseKey[]>>;

/** The curves that move a whole character over the floor: metres to its left, up and forward, and degrees about the vertical. */
export const ROOT_CURVES = ['left', 'up', 'forward', 'turn'] as const;

export type RootCurve = (typeof ROOT_CURVES)[number];

/** Keys of the root by curve, in order of frames. */
export type RootKeys = Readonly<Partial<Record<RootCurve, readonly ValueKey[]>>>;

/** Keys of dials, in order of frames, in the units of `Dials`. */
export type DialKeys = Readonly<Partial<Record<Dial, readonly ValueKey[]>>>;

const curve = Joi.valid(...KEY_CURVES).required();
const turns = Joi.array().items(finite).length(3).allow(null).required();
const slope = finite.allow(null).required();

/** The rule of a key pose. */
export const poseKey = Joi.object({
  frame: frame.required(),
  rotation: Joi.array().items(Joi.number().min(-1.01).max(1.01)).length(4).required(),
  curve,
  tangent: turns,
  into: turns,
});

/** The rule of a number's key. */
export const valueKey = Joi.object({
  frame: frame.required(),
  value: finite.required(),
  curve,
  tangent: slope,
  into: slope,
});

/** Keys of any kind when a second has `factor` times as many frames; where two fall on one frame the later stays. */
export function scaledKeyList<K extends PoseKey | ValueKey>(keys: readonly K[], factor: number): K[] {
  return keys
    .map((key) => ({
      ...key,
      frame: Math.round(key.frame * factor),
      tangent: scaledSlope(key.tangent, factor),
      into: scaledSlope(key.into, factor),
    }))
    .filter((key, i, all) => key.frame !== all[i + 1]?.frame);
}

const scaledSlope = (slope: number | Triple | null, factor: number): typeof slope =>
  slope === null
    ? null
    : typeof slope === 'number'
      ? slope / factor
      : (slope.map((v) => v / factor) as unknown as Triple);

/** A key of an older document, which had no free curves: a smooth one had a slope of its own where it was given one. */
export const migrateKey = (key: Readonly<Record<string, unknown>>): Record<string, unknown> => ({
  into: null,
  ...key,
  curve: key.curve === 'smooth' && key.tangent ? 'free' : key.curve,
  tangent: key.curve === 'smooth' ? key.tangent : null,
});
