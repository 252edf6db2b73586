import { defineEdit, layerName, rule } from '../defineEdit';
import { requireLayer } from '../lookup';
import { partnerOf } from '../pairs';

/** Removes a layer with all that is on it. */
export interface RemoveLayer {
  readonly type: 'remove layer';
  readonly layer: string;
}

export const removeLayer = defineEdit<RemoveLayer>({
  type: 'remove layer',
  schema: { layer: rule.id },
  apply: ({ scene }, { layer: id }) => {
    const layer = requireLayer(scene, id);
    const partner = partnerOf(scene, id);
    if (partner) partner.pair = null;
    for (const segment of layer.segments) delete scene.segments[segment];
    delete scene.lanes[id];
    scene.laneOrder = scene.laneOrder.filter((lane) => lane !== id);
  },
  describe: ({ layer }, scene) => `removal of the layer ${layerName(scene, layer)}`.trim(),
});
