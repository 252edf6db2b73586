import Joi from 'joi';

/** The props that are made in code, and one that came with a file. */
export const PROP_SHAPES = [
  'box',
  'ball',
  'cylinder',
  'plane',
  'stair',
  'bench',
  'rope line',
  'lantern',
  'hand cart',
  'storm shutter',
  'door',
  'basket',
  'own file',
] as const;

export type PropShape = (typeof PROP_SHAPES)[number];

/** What a prop is, for a character that is one. */
export interface Prop {
  readonly shape: PropShape;
  /** Width, height and depth in metres that its body was made with. */
  readonly size: readonly [number, number, number];
  /** Colour that its body was made with, as #rrggbb. */
  readonly colour: string;
  /** Metres above the floor. */
  readonly raised: number;
}

/** The least and the most that a prop measures in one direction, metres. */
export const PROP_SIZE = { least: 0.01, most: 100 } as const;

const length = Joi.number().min(PROP_SIZE.least).max(PROP_SIZE.most).required();

/** The rule of a prop. */
export const propSchema = Joi.object({
  shape: Joi.valid(...PROP_SHAPES).required(),
  size: Joi.array().ordered(length, length, length).required(),
  colour: Joi.string()
    .pattern(/^#[0-9a-f]{6}$/)
    .required(),
  raised: Joi.number().min(-100).max(100).required(),
});
