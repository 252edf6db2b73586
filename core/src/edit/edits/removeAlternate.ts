import { InputError } from '../../math/errors';
import { dropAlternate } from '../alternates/hands';
import { alternateName, defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Throws an alternate away that is not in hand. */
export interface RemoveAlternate {
  readonly type: 'remove alternate';
  readonly alternate: string;
}

export const removeAlternate = defineEdit<RemoveAlternate>({
  type: 'remove alternate',
  schema: { alternate: rule.id },
  ofAlternates: true,
  apply: ({ scene }, { alternate }) => {
    const { differences, name } = lookup(scene.alternates, alternate, 'alternate');
    if (!differences)
      throw new InputError('edit', `${name} is in hand.`, {
        hint: 'Swap to another alternate first, or keep another one only.',
      });
    dropAlternate(scene, alternate);
  },
  describe: ({ alternate }, scene) => `removal of ${alternateName(scene, alternate)}`,
});
