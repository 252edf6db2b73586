import Joi from 'joi';
import type { Draft } from 'immer';
import type { LayerLane } from '../../scene/lane';
import { defineEdit, layerName, rule } from '../defineEdit';
import { requireLayer } from '../lookup';

/** Moves all keys of a layer that stand at some frames; keys on which they come to stand are replaced. */
export interface MoveKeys {
  readonly type: 'move keys';
  readonly layer: string;
  readonly frames: readonly number[];
  /** Frames by which they are moved. */
  readonly by: number;
}

/** The lists of keys of a layer, each changed; those that come out empty are left out. */
function changeKeys(
  layer: Draft<LayerLane>,
  change: <K extends { frame: number }>(keys: readonly K[]) => K[],
): void {
  const lists = <K extends { frame: number }>(record: Record<string, K[] | undefined>): void => {
    for (const [name, keys] of Object.entries(record)) {
      const next = change(keys ?? []);
      if (next.length > 0) record[name] = next;
      else delete record[name];
    }
  };
  lists(layer.keys);
  lists(layer.rootKeys);
  lists(layer.dialKeys);
}

const frames = Joi.array().items(rule.number).min(1).max(100_000).required();

export const moveKeys = defineEdit<MoveKeys>({
  type: 'move keys',
  schema: { layer: rule.id, frames, by: rule.number },
  apply: ({ scene }, { layer, frames, by }) => {
    const moved = new Set(frames);
    changeKeys(requireLayer(scene, layer), (keys) => {
      const taken = new Set(keys.filter((k) => moved.has(k.frame)).map((k) => k.frame + by));
      return keys
        .filter((k) => moved.has(k.frame) || !taken.has(k.frame))
        .map((k) => (moved.has(k.frame) ? { ...k, frame: k.frame + by } : k))
        .sort((a, b) => a.frame - b.frame);
    });
  },
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
