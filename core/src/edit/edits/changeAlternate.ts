import { castDraft } from 'immer';
import type { Alternate } from '../../scene/alternate';
import { ALTERNATE_FIELDS } from '../../scene/alternate';
import { calledFields, schemaOf } from '../../scene/fields';
import { alternateName, defineEdit, requireValid, rule, someOf } from '../defineEdit';
import { lookup } from '../lookup';
import { snapshot } from '../snapshot';

/** Sets what an alternate is called, what is said of it, and what may differ in it. */
export interface ChangeAlternate {
  readonly type: 'change alternate';
  readonly alternate: string;
  readonly values: Partial<Pick<Alternate, 'name' | 'comment' | 'scope'>>;
}

const schema = schemaOf(ALTERNATE_FIELDS);

export const changeAlternate = defineEdit<ChangeAlternate>({
  type: 'change alternate',
  schema: { alternate: rule.id, values: someOf(ALTERNATE_FIELDS, 'id', 'differences') },
  ofAlternates: true,
  apply: ({ scene }, { alternate, values }) => {
    const before = lookup(scene.alternates, alternate, 'alternate');
    for (const c of values.scope?.characters ?? []) lookup(scene.characters, c, 'character');
    const name = values.name === undefined ? before.name : values.name.trim() || before.name;
    const next = { ...snapshot<Alternate>(before), ...values, name };
    requireValid(schema, next, `alternates.${alternate}`);
    scene.alternates[alternate] = castDraft(next);
  },
  describe: ({ alternate, values }, scene) =>
    `${calledFields(ALTERNATE_FIELDS, values)} of ${alternateName(scene, alternate)}`,
});
