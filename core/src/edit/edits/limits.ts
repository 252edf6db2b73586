import { castDraft } from 'immer';
import type { ChoiceLimits } from '../../scene/choice';
import { limitsSchema } from '../../scene/choice';
import { defineEdit } from '../defineEdit';

/** Says what choices of joins keep to, where a seam has no limits of its own. */
export interface Limits {
  readonly type: 'limits';
  readonly limits: ChoiceLimits;
}

export const limits = defineEdit<Limits>({
  type: 'limits',
  schema: { limits: limitsSchema.required() },
  apply: ({ scene }, { limits: next }) => {
    scene.choice = castDraft(next);
  },
  describe: () => 'limits of choices',
  passesLocks: true,
});
