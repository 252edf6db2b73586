import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Takes a tether away. */
export interface RemoveTether {
  readonly type: 'remove tether';
  readonly tether: string;
}

export const removeTether = defineEdit<RemoveTether>({
  type: 'remove tether',
  schema: { tether: rule.id },
  apply: ({ scene }, { tether }) => {
    lookup(scene.tethers, tether, 'tether');
    delete scene.tethers[tether];
  },
  describe: ({ tether }, scene) => `removal of the tether ${scene.tethers[tether]?.name ?? ''}`.trim(),
});
