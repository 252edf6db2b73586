import { castDraft } from 'immer';
import { schemaOf } from '../../scene/fields';
import type { Character } from '../../scene/character';
import { CHARACTER_FIELDS } from '../../scene/character';
import { PLAIN_LANE } from '../../scene/lane';
import { defineEdit, rule } from '../defineEdit';
import { requireTarget, requireUnusedId } from '../lookup';

/** Adds a character with an empty body lane. */
export interface AddCharacter {
  readonly type: 'add character';
  readonly character: Character;
  /** Id of its body lane. */
  readonly lane: string;
}

export const addCharacter = defineEdit<AddCharacter>({
  type: 'add character',
  schema: { character: schemaOf(CHARACTER_FIELDS).required(), lane: rule.id },
  apply: ({ scene }, { character, lane }) => {
    requireUnusedId(scene.characters, character.id, 'character');
    requireUnusedId(scene.lanes, lane, 'lane');
    requireTarget(scene, character.id, character.look);
    scene.characters[character.id] = castDraft({ ...character });
    scene.characterOrder.push(character.id);
    scene.lanes[lane] = { id: lane, ...PLAIN_LANE, kind: 'body', character: character.id, segments: [] };
    scene.laneOrder.push(lane);
  },
  describe: ({ character }) => `addition of ${character.name}`,
});
