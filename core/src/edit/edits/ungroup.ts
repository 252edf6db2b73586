import { defined } from '../../math/defined';
import { groupOf } from '../../scene/group';
import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Takes a group apart; what was in it goes to the group that it was in. */
export interface Ungroup {
  readonly type: 'ungroup';
  readonly group: string;
}

export const ungroup = defineEdit<Ungroup>({
  type: 'ungroup',
  schema: { group: rule.id },
  apply: ({ scene }, { group: id }) => {
    const { members } = lookup(scene.groups, id, 'group');
    const parent = groupOf(scene, id);
    if (parent) {
      const { members: around } = defined(scene.groups[parent.id]);
      around.splice(around.indexOf(id), 1, ...members);
    }
    delete scene.groups[id];
  },
  describe: ({ group }, scene) => `ungrouping of ${scene.groups[group]?.name ?? group}`,
});
