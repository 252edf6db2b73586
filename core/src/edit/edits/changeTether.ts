import { castDraft } from 'immer';
import type { Fields } from '../../scene/fields';
import { calledFields, kindsSchema } from '../../scene/fields';
import type { Hold, Lead, Reach } from '../../scene/tether';
import { TETHER_KINDS } from '../../scene/tether';
import { defineEdit, requireValid, rule, someOf } from '../defineEdit';
import { lookup } from '../lookup';
import { snapshot } from '../snapshot';
import { requireTethered } from '../tethers';

/** What of a tether can be set. */
export type TetherValues = Partial<
  Omit<Hold, 'id' | 'kind'> & Omit<Reach, 'id' | 'kind'> & Omit<Lead, 'id' | 'kind'>
>;

/** Sets values of a tether. */
export interface ChangeTether {
  readonly type: 'change tether';
  readonly tether: string;
  readonly values: TetherValues;
}

const schema = kindsSchema(TETHER_KINDS);
const ALL: Fields = { ...TETHER_KINDS.hold, ...TETHER_KINDS.reach, ...TETHER_KINDS.lead };

export const changeTether = defineEdit<ChangeTether>({
  type: 'change tether',
  schema: { tether: rule.id, values: someOf(ALL, 'id') },
  apply: ({ scene }, { tether: id, values }) => {
    const tether = lookup(scene.tethers, id, 'tether');
    const { name } = tether;
    Object.assign(tether, castDraft(values));
    tether.name = tether.name.trim().slice(0, 200) || name;
    requireValid(schema, snapshot(tether), `tethers.${id}`);
    requireTethered(scene, id);
  },
  describe: ({ tether, values }, scene) =>
    `${calledFields(ALL, values)} of the tether ${scene.tethers[tether]?.name ?? ''}`.trim(),
});
