import Joi from 'joi';
import { finite, id, scaledFrames, weight } from './rules';

/** Where somebody looks: at a place in the scene, metres, or at the head of another character. */
export type LookTarget =
  { readonly point: readonly [number, number, number] } | { readonly character: string };

/** How the head and the chest of a character follow something with the eyes. */
export interface Look {
  readonly at: LookTarget;
  /** Frames by which the head is behind what moves. */
  readonly lag: number;
  /** How far the head turns to a side, and up or down, degrees from where the body faces. */
  readonly turn: number;
  readonly tilt: number;
  /** The share of its turn that the chest takes. */
  readonly chest: number;
}

/** A look at something, unless asked otherwise. */
export const PLAIN_LOOK = { lag: 6, turn: 75, tilt: 45, chest: 0.2 } as const;

/** The limits of how far a head may be asked to turn, degrees. */
export const LOOK_LIMITS = { turn: 120, tilt: 85, lag: 120 } as const;

const target = Joi.alternatives(
  Joi.object({ point: Joi.array().items(finite).length(3).required() }),
  Joi.object({ character: id.required() }),
);

/** The rule of a look. */
export const lookSchema = Joi.object({
  at: target.required(),
  lag: Joi.number().min(0).max(LOOK_LIMITS.lag).required(),
  turn: Joi.number().min(0).max(LOOK_LIMITS.turn).required(),
  tilt: Joi.number().min(0).max(LOOK_LIMITS.tilt).required(),
  chest: weight.required(),
});

/** Whether a look follows a character. */
export const looksAt = (look: Look | null, character: string): boolean =>
  look !== null && 'character' in look.at && look.at.character === character;

/** A look when a second has `factor` times as many frames. */
export const scaledLook = (look: Look | null, factor: number): Look | null =>
  look && { ...look, lag: scaledFrames(look.lag, factor) };
