import type { FloorPlace } from '../../scene/floor';
import { place } from '../../scene/rules';
import { characterName, defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Places the first pose of a character on the floor; null leaves it as its first clip has it. */
export interface StartCharacter {
  readonly type: 'start character';
  readonly character: string;
  readonly start: FloorPlace | null;
}

export const startCharacter = defineEdit<StartCharacter>({
  type: 'start character',
  schema: { character: rule.id, start: place.allow(null).required() },
  apply: ({ scene }, { character, start }) => {
    lookup(scene.characters, character, 'character').start = start;
  },
  describe: ({ character }, scene) => `start of ${characterName(scene, character)}`,
});
