import type { Draft } from 'immer';
import { InputError } from '../../math/errors';
import type { LayerLane } from '../../scene/lane';
import type { Scene } from '../../scene/scene';
import { defineEdit, layerName, rule } from '../defineEdit';
import { requireLayer } from '../lookup';
import { becomeOtherSide, partnerOf } from '../pairs';

/**
 * Links two layers of a character as the left and the right of one thing, or parts them. The second becomes the other side of the first;
 * from then on each follows what is done to the other.
 */
export interface PairLayers {
  readonly type: 'pair layers';
  readonly layer: string;
  /** Null parts them. */
  readonly with: string | null;
}

export const pairLayers = defineEdit<PairLayers>({
  type: 'pair layers',
  schema: { layer: rule.id, with: rule.id.allow(null) },
  apply: ({ scene, library }, { layer: id, with: other }) => {
    const layer = requireLayer(scene, id);
    part(scene, layer);
    if (other === null) return;
    const second = requireLayer(scene, other);
    if (second === layer || second.character !== layer.character)
      throw new InputError('edit', `${layer.name} cannot be linked with ${second.name}.`, {
        hint: 'Choose another layer of the same character.',
      });
    part(scene, second);
    layer.pair = other;
    second.pair = id;
    becomeOtherSide(scene, id, second, library);
  },
  describe: ({ layer, with: other }, scene) =>
    other === null
      ? `parting of the layer ${layerName(scene, layer)} from its other side`
      : `link of the layer ${layerName(scene, layer)} with ${layerName(scene, other)}`,
});

/** Parts a layer from its other side. */
function part(scene: Draft<Scene>, layer: Draft<LayerLane>): void {
  const before = partnerOf(scene, layer.id);
  if (before) before.pair = null;
  layer.pair = null;
}
