import { characterName, defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Holds the planted feet of a character where they stand, or lets them be. */
export interface FootLock {
  readonly type: 'foot-lock';
  readonly character: string;
  readonly on: boolean;
}

export const footLock = defineEdit<FootLock>({
  type: 'foot-lock',
  schema: { character: rule.id, on: rule.flag },
  apply: ({ scene }, { character, on }) => {
    lookup(scene.characters, character, 'character').footLock = on;
  },
  describe: ({ character }, scene) => `foot lock of ${characterName(scene, character)}`,
});
