import { castDraft } from 'immer';
import Joi from 'joi';
import type { Dial } from '../../clip/dials';
import { DIALS } from '../../clip/dials';
import type { ValueKey } from '../../scene/keys';
import { defineEdit, rule } from '../defineEdit';
import { requireLayer } from '../lookup';
import type { KeyOrNone } from '../putKey';
import { putKey, valueKeyOrNone } from '../putKey';

/** Puts a key of a dial on a layer, in place of one that was at its frame; without a value takes it away. */
export interface DialKey {
  readonly type: 'dial key';
  readonly layer: string;
  readonly dial: Dial;
  readonly key: KeyOrNone<ValueKey>;
}

export const dialKey = defineEdit<DialKey>({
  type: 'dial key',
  schema: { layer: rule.id, dial: Joi.valid(...Object.keys(DIALS)).required(), key: valueKeyOrNone },
  apply: ({ scene }, { layer, dial, key }) =>
    putKey(requireLayer(scene, layer).dialKeys, dial, castDraft(key)),
  describe: ({ key, dial }) => `key of ${dial} at frame ${key.frame}`,
});
