import { castDraft } from 'immer';
import { InputError } from '../../math/errors';
import type { Character } from '../../scene/character';
import { CHARACTER_FIELDS } from '../../scene/character';
import { calledFields, schemaOf } from '../../scene/fields';
import { characterName, defineEdit, requireValid, rule, someOf } from '../defineEdit';
import { lookup, requireTarget } from '../lookup';
import { snapshot } from '../snapshot';

/** What of a character can be set; its lead-in moves others, and is an edit of its own. */
export type CharacterValues = Partial<Omit<Character, 'id' | 'body' | 'leadIn'>>;

/** Sets values of a character. */
export interface ChangeCharacter {
  readonly type: 'change character';
  readonly character: string;
  readonly values: CharacterValues;
}

const schema = schemaOf(CHARACTER_FIELDS);

export const changeCharacter = defineEdit<ChangeCharacter>({
  type: 'change character',
  schema: { character: rule.id, values: someOf(CHARACTER_FIELDS, 'id', 'body', 'leadIn') },
  apply: ({ scene }, { character: id, values }) => {
    const character = lookup(scene.characters, id, 'character');
    const { name } = character;
    Object.assign(character, castDraft(values));
    character.name = character.name.trim().slice(0, 200) || name;
    if (!(character.size >= 0.01 && character.size <= 100)) {
      throw new InputError('edit', `${character.name} cannot be ${character.size} times its size.`, {
        hint: 'Choose 0.01 to 100.',
      });
    }
    requireValid(schema, snapshot(character), `characters.${id}`);
    requireTarget(scene, id, character.look);
  },
  describe: ({ character, values }, scene) =>
    `${calledFields(CHARACTER_FIELDS, values)} of ${characterName(scene, character)}`,
});
