import Joi from 'joi';
import type { HistoryEntry } from './db';

const patches = Joi.array().items(
  Joi.object({
    op: Joi.valid('add', 'remove', 'replace').required(),
    path: Joi.array().items(Joi.string(), Joi.number().integer()).required(),
    value: Joi.any(),
  }),
);
const entries = Joi.array().items(
  Joi.object({
    label: Joi.string().allow('').required(),
    patches: patches.required(),
    inverse: patches.required(),
  }),
);

/** Steps of undo as they were kept; none where they cannot be read. */
export function readHistory(value: unknown): readonly HistoryEntry[] {
  const { error } = entries.required().validate(value, { convert: false });
  return error ? [] : (value as HistoryEntry[]);
}
