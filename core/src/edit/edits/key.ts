import { castDraft } from 'immer';
import Joi from 'joi';
import type { PoseKey } from '../../scene/keys';
import { poseKey } from '../../scene/keys';
import { defineEdit, rule } from '../defineEdit';
import { requireLayer } from '../lookup';

/** Puts a key pose of a joint at its frame, in place of one that was there; without a rotation takes it away. */
export interface Key {
  readonly type: 'key';
  readonly layer: string;
  readonly joint: string;
  /** The key to put at its frame; or only a frame, whose key is taken away. */
  readonly key: PoseKey | { readonly frame: number; readonly rotation: null };
}

export const key = defineEdit<Key>({
  type: 'key',
  schema: {
    layer: rule.id,
    joint: rule.name,
    key: Joi.alternatives(
      poseKey,
      Joi.object({ frame: rule.number, rotation: Joi.valid(null).required() }),
    ).required(),
  },
  apply: ({ scene }, { layer: id, joint, key }) => {
    const layer = requireLayer(scene, id);
    const others = (layer.keys[joint] ?? []).filter((k) => k.frame !== key.frame);
    const keys = key.rotation === null ? others : [...others, castDraft(key)];
    keys.sort((a, b) => a.frame - b.frame);
    if (keys.length > 0) layer.keys[joint] = keys;
    else delete layer.keys[joint];
  },
  describe: ({ key, joint }) => `key of ${joint} at frame ${key.frame}`,
});
