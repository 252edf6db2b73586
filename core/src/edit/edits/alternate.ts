import { castDraft } from 'immer';
import Joi from 'joi';
import { InputError } from '../../math/errors';
import type { AlternateScope } from '../../scene/alternate';
import { MOST_ALTERNATES, PLAIN_ALTERNATE, scopeSchema } from '../../scene/alternate';
import { id, text } from '../../scene/rules';
import { alternateInHand } from '../../scene/versions';
import { defineEdit, rule } from '../defineEdit';
import { lookup, requireUnusedId } from '../lookup';

/** Keeps the scene in hand as it is as one alternate, and goes on in another that is still the same. */
export interface NewAlternate {
  readonly type: 'alternate';
  readonly alternate: string;
  readonly name: string;
  /** What may differ in it; null the whole scene. */
  readonly scope: AlternateScope | null;
  /** What the scene in hand is kept as, where it is no alternate yet. */
  readonly kept: { readonly id: string; readonly name: string } | null;
}

export const alternate = defineEdit<NewAlternate>({
  type: 'alternate',
  schema: {
    alternate: rule.id,
    name: text.required(),
    scope: scopeSchema.allow(null).required(),
    kept: Joi.object({ id: id.required(), name: text.required() }).allow(null).required(),
  },
  ofAlternates: true,
  apply: ({ scene }, { alternate, name, scope, kept }) => {
    requireUnusedId(scene.alternates, alternate, 'alternate');
    for (const c of scope?.characters ?? []) lookup(scene.characters, c, 'character');
    const inHand = alternateInHand(scene);
    const count = scene.alternateOrder.length + (inHand ? 1 : 2);
    if (count > MOST_ALTERNATES)
      throw new InputError('edit', `A scene has ${MOST_ALTERNATES} alternates at most.`, {
        hint: 'Throw one away first, or copy the scene.',
      });
    if (!inHand) {
      if (!kept || kept.id === alternate)
        throw new InputError('edit', 'The scene in hand has no name to be kept under.', {
          hint: 'Give it an id and a name of its own.',
        });
      scene.alternates[kept.id] = castDraft({ ...PLAIN_ALTERNATE, ...kept, scope, differences: [] });
      scene.alternateOrder = [kept.id];
    } else lookup(scene.alternates, inHand.id, 'alternate').differences = [];
    const before = scene.alternateOrder.indexOf(inHand?.id ?? kept?.id ?? '');
    scene.alternateOrder.splice(before + 1, 0, alternate);
    scene.alternates[alternate] = castDraft({ ...PLAIN_ALTERNATE, id: alternate, name, scope });
  },
  describe: ({ name }) => `new alternate ${name}`,
});
