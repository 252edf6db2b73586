import { defined } from '../../math/defined';
import { characterName, defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Brings a character, with its lanes, to another place in the order. */
export interface OrderCharacter {
  readonly type: 'order character';
  readonly character: string;
  /** Its place among the characters, from 0. */
  readonly to: number;
}

export const orderCharacter = defineEdit<OrderCharacter>({
  type: 'order character',
  schema: { character: rule.id, to: rule.number },
  apply: ({ scene }, { character, to }) => {
    lookup(scene.characters, character, 'character');
    const others = scene.characterOrder.filter((c) => c !== character);
    others.splice(Math.min(Math.max(0, to), others.length), 0, character);
    scene.characterOrder = others;
    scene.laneOrder = others.flatMap((c) =>
      scene.laneOrder.filter((l) => defined(scene.lanes[l]).character === c),
    );
  },
  describe: ({ character }, scene) => `order of ${characterName(scene, character)}`,
});
