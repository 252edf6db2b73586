import Joi from 'joi';
import { castDraft } from 'immer';
import { defineEdit, rule } from '../defineEdit';

/** Leaves something out of what the continuity list asks to be looked at, or puts it back. */
export interface Ignore {
  readonly type: 'ignore';
  /** What it is; see `ContinuityItem`. */
  readonly item: string;
  /** Why; null puts it back. */
  readonly reason: string | null;
}

export const ignore = defineEdit<Ignore>({
  type: 'ignore',
  schema: { item: rule.name, reason: Joi.string().allow('', null).max(1000).required() },
  apply: ({ scene }, { item, reason }) => {
    const { [item]: _, ...others } = scene.ignored;
    scene.ignored = castDraft(reason === null ? others : { ...others, [item]: reason });
  },
  describe: ({ reason }) => (reason === null ? 'measure looked at again' : 'measure ignored'),
  passesLocks: true,
});
