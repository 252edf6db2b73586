import { InputError, defined } from '@warper/core';
import { closest } from 'fastest-levenshtein';
import Joi from 'joi';

export const metres = Joi.number().min(-1e6).max(1e6);
export const whole = Joi.number().integer();
export const word = Joi.string().min(1).max(1000);

export const failAt =
  (path: string) =>
  (message: string, key: string, hint = ''): never => {
    throw new InputError('cues', message, { place: { path: `${path}.${key}` }, hint });
  };

/** The rules of an object's keys. */
export type Keys = Readonly<Record<string, Joi.Schema>>;

/**
 * Checks the keys of an object of a sheet.
 *
 * @throws InputError `unknown-key` with the nearest known one, or `cues` with the path of what is wrong
 */
export function check<T>(value: unknown, keys: Keys, path: string): T {
  const here = path || 'the sheet';
  if (typeof value !== 'object' || value === null || Array.isArray(value)) {
    throw new InputError('cues', `Expected an object for ${here}.`, { place: { path } });
  }
  for (const key of Object.keys(value)) {
    const at = path ? `${path}.${key}` : key;
    if (!(key in keys)) {
      throw new InputError('unknown-key', `Unknown key "${key}" in ${here}.`, {
        place: { path: at },
        hint: `Did you mean "${closest(key, Object.keys(keys))}"?`,
      });
    }
  }
  const { error } = Joi.object(keys).validate(value, { convert: false });
  if (error) {
    const inner = defined(error.details[0]).path.join('.');
    throw new InputError('cues', `${error.message.replace(/"/g, '')} in ${here}.`, {
      place: { path: [path, inner].filter(Boolean).join('.') },
    });
  }
  return value as T;
}
