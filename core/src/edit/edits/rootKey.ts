import { castDraft } from 'immer';
import Joi from 'joi';
import type { RootCurve, ValueKey } from '../../scene/keys';
import { ROOT_CURVES } from '../../scene/keys';
import { defineEdit, rule } from '../defineEdit';
import { requireLayer } from '../lookup';
import type { KeyOrNone } from '../putKey';
import { putKey, valueKeyOrNone } from '../putKey';

/** Puts a key on a curve that moves the whole character, in place of one that was at its frame; without a value takes it away. */
export interface RootKey {
  readonly type: 'root key';
  readonly layer: string;
  readonly curve: RootCurve;
  readonly key: KeyOrNone<ValueKey>;
}

export const rootKey = defineEdit<RootKey>({
  type: 'root key',
  schema: { layer: rule.id, curve: Joi.valid(...ROOT_CURVES).required(), key: valueKeyOrNone },
  apply: ({ scene }, { layer, curve, key }) =>
    putKey(requireLayer(scene, layer).rootKeys, curve, castDraft(key)),
  describe: ({ key, curve }) => `key of the root (${curve}) at frame ${key.frame}`,
});
