import type { LookTarget, Look } from '@warper/core';
import { InputError, LOOK_LIMITS, PLAIN_LOOK } from '@warper/core';
import Joi from 'joi';
import { check, metres, word } from './checkKeys';

/** What the head follows: a place in metres, or a character by name; all else as in `Look`. */
export interface CueLook extends Partial<Omit<Look, 'at'>> {
  readonly at: string | readonly [number, number, number];
}

const KEYS = {
  at: Joi.alternatives(word, Joi.array().items(metres).length(3)).required(),
  lag: Joi.number().min(0).max(LOOK_LIMITS.lag),
  turn: Joi.number().min(0).max(LOOK_LIMITS.turn),
  tilt: Joi.number().min(0).max(LOOK_LIMITS.tilt),
  chest: Joi.number().min(0).max(1),
} as const;

/** Checks what a character, a cue or a layer looks at; nothing is fine. */
export function checkLook(look: unknown, path: string): void {
  if (look !== undefined) check(look, KEYS, path);
}

/**
 * The look that a sheet asks for.
 *
 * @param names of the characters of the sheet, in order
 * @param own which of them looks
 * @param idOf a character's id by its number
 * @throws InputError `cues` where the sheet has no character of that name, or somebody would look at themselves
 */
export function lookOf(
  { at, ...others }: CueLook,
  names: readonly string[],
  own: number,
  idOf: (index: number) => string,
  path: string,
): Look {
  return { ...PLAIN_LOOK, ...others, at: targetOf(at, names, own, idOf, `${path}.at`) };
}

function targetOf(
  at: CueLook['at'],
  names: readonly string[],
  own: number,
  idOf: (index: number) => string,
  path: string,
): LookTarget {
  if (typeof at !== 'string') return { point: at };
  const found = names.indexOf(at);
  if (found < 0)
    throw new InputError('cues', `The sheet has no character ${at} to look at.`, {
      place: { path },
      hint: `Its characters are ${names.join(', ')}.`,
    });
  if (found === own)
    throw new InputError('cues', `${at} cannot look at themselves.`, {
      place: { path },
      hint: 'Name another character, or give a place: [x, y, z].',
    });
  return { character: idOf(found) };
}
