import Joi from 'joi';
import { valueKey } from '../scene/keys';
import { rule } from './defineEdit';

/** A key of a number, or that there is to be none at a frame. */
export type KeyOrNone<K extends { readonly frame: number }> =
  K | { readonly frame: number; readonly value: null };

/** Puts a key on the list of a name, in place of one that was at its frame; a list that comes out empty goes. */
export function putKey<N extends string, K extends { frame: number }>(
  lists: Partial<Record<N, K[]>>,
  name: N,
  key: KeyOrNone<K>,
): void {
  const others = (lists[name] ?? []).filter((k) => k.frame !== key.frame);
  const keys = 'value' in key && key.value === null ? others : [...others, key as K];
  keys.sort((a, b) => a.frame - b.frame);
  if (keys.length > 0) lists[name] = keys;
  else delete lists[name];
}

/** The rule of a number's key, or of a frame without one. */
export const valueKeyOrNone = Joi.alternatives(
  valueKey,
  Joi.object({ frame: rule.number, value: Joi.valid(null).required() }),
).required();
