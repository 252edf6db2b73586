import Joi from 'joi';
import { defineEdit, layerName, rule } from '../defineEdit';
import { requireLayer } from '../lookup';

/** Lets a layer change places with the next one of its character, upwards or downwards. */
export interface RaiseLayer {
  readonly type: 'raise layer';
  readonly layer: string;
  readonly by: 1 | -1;
}

export const raiseLayer = defineEdit<RaiseLayer>({
  type: 'raise layer',
  schema: { layer: rule.id, by: Joi.valid(1, -1).required() },
  apply: ({ scene }, { layer: id, by }) => {
    const { character } = requireLayer(scene, id);
    const layers = scene.laneOrder.filter((lane) => {
      const entry = scene.lanes[lane];
      return entry?.kind === 'layer' && entry.character === character;
    });
    const other = layers[layers.indexOf(id) + by];
    if (other === undefined) return;
    const [a, b] = [scene.laneOrder.indexOf(id), scene.laneOrder.indexOf(other)];
    scene.laneOrder[a] = other;
    scene.laneOrder[b] = id;
  },
  describe: ({ layer }, scene) => `order of the layer ${layerName(scene, layer)}`.trim(),
});
