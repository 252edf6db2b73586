import { castDraft } from 'immer';
import { InputError } from '../../math/errors';
import type { Prop } from '../../scene/prop';
import { propSchema } from '../../scene/prop';
import { characterName, defineEdit, requireValid, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Gives a prop another shape, size, colour or height, with the body that was made for it. */
export interface ChangeProp {
  readonly type: 'change prop';
  readonly character: string;
  readonly body: string;
  readonly prop: Prop;
}

export const changeProp = defineEdit<ChangeProp>({
  type: 'change prop',
  schema: { character: rule.id, body: rule.id, prop: rule.entity },
  apply: ({ scene }, { character: id, body, prop }) => {
    const character = lookup(scene.characters, id, 'character');
    if (!character.prop) throw new InputError('edit', `${character.name} is no prop.`);
    requireValid(propSchema, prop, `characters.${id}.prop`);
    character.body = body;
    character.prop = castDraft(prop);
  },
  describe: ({ character, body, prop }, scene) => {
    const before = scene.characters[character];
    const isRaised = before?.body === body && before.prop?.raised !== prop.raised;
    return `${isRaised ? 'height' : 'shape'} of ${characterName(scene, character)}`;
  },
});
