import Joi from 'joi';
import { calledFields } from '../../scene/fields';
import type { SegmentGroup } from '../../scene/group';
import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** What of a group can be set. */
export type GroupValues = Partial<Pick<SegmentGroup, 'name' | 'folded' | 'muted'>>;

/** Sets values of a group. */
export interface ChangeGroup {
  readonly type: 'change group';
  readonly group: string;
  readonly values: GroupValues;
}

export const changeGroup = defineEdit<ChangeGroup>({
  type: 'change group',
  schema: {
    group: rule.id,
    values: Joi.object({
      name: rule.name.optional().allow(''),
      folded: Joi.boolean(),
      muted: Joi.boolean(),
    }).required(),
  },
  apply: ({ scene }, { group: id, values }) => {
    const group = lookup(scene.groups, id, 'group');
    Object.assign(group, values);
    group.name = group.name.trim().slice(0, 200) || id;
  },
  describe: ({ group, values }, scene) =>
    `${calledFields({}, values)} of the group ${scene.groups[group]?.name ?? group}`,
});
