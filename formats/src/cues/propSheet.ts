import type { Prop } from '@warper/core';
import { PROP_SHAPES } from '@warper/core';
import Joi from 'joi';
import { PROPS } from '../props/shapes';
import { check, metres } from './checkKeys';

/** A prop: one of those that are made in code, or "own file" for the body that a character names. */
export type CueProp = Pick<Prop, 'shape'> & Partial<Prop>;

const KEYS = {
  shape: Joi.valid(...PROP_SHAPES).required(),
  size: Joi.array().items(Joi.number().min(0.01).max(100)).length(3),
  colour: Joi.string().pattern(/^#[0-9a-f]{6}$/),
  raised: metres,
};

/** Checks what a sheet says of a prop; nothing is fine. */
export function checkProp(prop: unknown, path: string): void {
  if (prop !== undefined) check(prop, KEYS, path);
}

/** The prop that a sheet asks for. */
export function propOf({ shape, ...own }: CueProp): Prop {
  const { size, colour } =
    shape === 'own file' ? { size: [1, 1, 1] as const, colour: '#888888' } : PROPS[shape];
  return { shape, size, colour, raised: 0, ...own };
}
