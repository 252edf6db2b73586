import Joi from 'joi';
import { changeKeys } from '../changeKeys';
import { defineEdit, layerName, rule } from '../defineEdit';
import { moveKeysOf } from '../links';
import { requireLayer } from '../lookup';

/** Moves all keys of a layer that stand at some frames; keys on which they come to stand are replaced. */
export interface MoveKeys {
  readonly type: 'move keys';
  readonly layer: string;
  readonly frames: readonly number[];
  /** Frames by which they are moved. */
  readonly by: number;
}

const frames = Joi.array().items(rule.number).min(1).max(100_000).required();

export const moveKeys = defineEdit<MoveKeys>({
  type: 'move keys',
  schema: { layer: rule.id, frames, by: rule.number },
  apply: ({ scene }, { layer, frames, by }) => moveKeysOf(scene, layer, frames, by),
  describe: ({ layer, frames }, scene) =>
    `move of ${frames.length === 1 ? 'a key' : 'keys'} of the layer ${layerName(scene, layer)}`,
});

/** Takes away all keys of a layer that stand at some frames. */
export interface RemoveKeys {
  readonly type: 'remove keys';
  readonly layer: string;
  readonly frames: readonly number[];
}

export const removeKeys = defineEdit<RemoveKeys>({
  type: 'remove keys',
  schema: { layer: rule.id, frames },
  apply: ({ scene }, { layer, frames }) => {
    const gone = new Set(frames);
    changeKeys(requireLayer(scene, layer), (keys) => keys.filter((k) => !gone.has(k.frame)));
  },
  describe: ({ layer, frames }, scene) =>
    `removal of ${frames.length === 1 ? 'a key' : 'keys'} of the layer ${layerName(scene, layer)}`,
});
