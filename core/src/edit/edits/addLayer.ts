import { defined } from '../../math/defined';
import { castDraft } from 'immer';
import type { LayerLane } from '../../scene/lane';
import { LANE_KINDS } from '../../scene/lane';
import { kindsSchema } from '../../scene/fields';
import { defineEdit } from '../defineEdit';
import { lookup, requireTarget, requireUnusedId } from '../lookup';

/** Adds a layer on top of its character's others. */
export interface AddLayer {
  readonly type: 'add layer';
  readonly layer: LayerLane;
}

export const addLayer = defineEdit<AddLayer>({
  type: 'add layer',
  schema: { layer: kindsSchema({ layer: LANE_KINDS.layer }).required() },
  apply: ({ scene }, { layer }) => {
    lookup(scene.characters, layer.character, 'character');
    requireUnusedId(scene.lanes, layer.id, 'lane');
    const lane = castDraft(copyOf(layer));
    requireTarget(scene, lane.character, lane.look);
    scene.lanes[layer.id] = lane;
    const last = scene.laneOrder.findLastIndex(
      (id) => defined(scene.lanes[id]).character === layer.character,
    );
    scene.laneOrder.splice(last + 1, 0, layer.id);
  },
  describe: ({ layer }) => `addition of the layer ${layer.name}`,
});

const copied = <T extends object>(lists: Readonly<Record<string, readonly T[]>>): Record<string, T[]> =>
  Object.fromEntries(Object.entries(lists).map(([name, keys]) => [name, keys.map((key) => ({ ...key }))]));

/** A layer whose lists are its own: what is put on it in the same breath is not put onto what was given. */
const copyOf = (layer: LayerLane): LayerLane => ({
  ...layer,
  segments: [...layer.segments],
  keys: copied(layer.keys),
  rootKeys: copied(layer.rootKeys),
  dialKeys: copied(layer.dialKeys),
});
