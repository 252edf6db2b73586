import { InputError } from '@warper/core';
import { closest } from 'fastest-levenshtein';
import type Joi from 'joi';

/**
 * Checks what a request asks for, numbers and switches as text included.
 *
 * @throws InputError `query` with the key that is wrong; for an unknown one with the nearest that there is
 */
export function checkQuery<T>(rules: Joi.ObjectSchema, value: unknown): T {
  const { error, value: checked } = rules.validate(value, { convert: true });
  if (!error) return checked as T;
  const [detail] = error.details;
  const key = String(detail?.path[0] ?? '');
  const keys = Object.keys(rules.describe().keys as object);
  const unknown = detail?.type === 'object.unknown';
  throw new InputError('query', unknown ? `There is no "${key}" to ask for.` : `${error.message}.`, {
    place: { path: key },
    hint: unknown ? `Did you mean "${closest(key, keys)}"?` : 'See /api/openapi.json.',
  });
}
