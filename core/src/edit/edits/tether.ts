import { castDraft } from 'immer';
import { kindsSchema } from '../../scene/fields';
import type { Tether } from '../../scene/tether';
import { TETHER_KINDS } from '../../scene/tether';
import { characterName, defineEdit, requireValid, rule } from '../defineEdit';
import { requireTethered } from '../tethers';

/** Adds a tether, or puts it in place of the one with its id. */
export interface SetTether {
  readonly type: 'tether';
  readonly tether: Tether;
}

const schema = kindsSchema(TETHER_KINDS);

export const tether = defineEdit<SetTether>({
  type: 'tether',
  schema: { tether: rule.entity },
  apply: ({ scene }, { tether }) => {
    const name = String(tether.name).trim().slice(0, 200) || tether.kind;
    const next = { ...tether, name };
    requireValid(schema, next, `tethers.${tether.id}`);
    scene.tethers[tether.id] = castDraft(next);
    requireTethered(scene, tether.id);
  },
  describe: ({ tether }, scene) =>
    `tether of ${characterName(scene, tether.child)} to ${characterName(scene, tether.parent)}`,
});
