import { castDraft } from 'immer';
import Joi from 'joi';
import type { RootCurve, ValueKey } from '../../scene/keys';
import { ROOT_CURVES, valueKey } from '../../scene/keys';
import { defineEdit, rule } from '../defineEdit';
import { requireLayer } from '../lookup';

/** Puts a key on a curve that moves the whole character, in place of one that was at its frame; without a value takes it away. */
export interface RootKey {
  readonly type: 'root key';
  readonly layer: string;
  readonly curve: RootCurve;
  readonly key: ValueKey | { readonly frame: number; readonly value: null };
}

export const rootKey = defineEdit<RootKey>({
  type: 'root key',
  schema: {
    layer: rule.id,
    curve: Joi.valid(...ROOT_CURVES).required(),
    key: Joi.alternatives(
      valueKey,
      Joi.object({ frame: rule.number, value: Joi.valid(null).required() }),
    ).required(),
  },
  apply: ({ scene }, { layer: id, curve, key }) => {
    const layer = requireLayer(scene, id);
    const others = (layer.rootKeys[curve] ?? []).filter((k) => k.frame !== key.frame);
    const keys = key.value === null ? others : [...others, castDraft(key)];
    keys.sort((a, b) => a.frame - b.frame);
    if (keys.length > 0) layer.rootKeys[curve] = keys;
    else delete layer.rootKeys[curve];
  },
  describe: ({ key, curve }) => `key of the root (${curve}) at frame ${key.frame}`,
});
