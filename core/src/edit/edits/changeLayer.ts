import { castDraft } from 'immer';
import { calledFields, kindsSchema } from '../../scene/fields';
import type { LayerLane } from '../../scene/lane';
import { LANE_KINDS } from '../../scene/lane';
import { defineEdit, layerName, requireValid, rule, someOf } from '../defineEdit';
import { requireLayer, requireTarget } from '../lookup';
import { snapshot } from '../snapshot';

/** What of a layer can be set. */
export type LayerValues = Partial<
  Omit<LayerLane, 'id' | 'kind' | 'character' | 'segments' | 'keys' | 'rootKeys' | 'dialKeys' | 'pair'>
>;

/** Sets values of a layer. */
export interface ChangeLayer {
  readonly type: 'change layer';
  readonly layer: string;
  readonly values: LayerValues;
}

const schema = kindsSchema({ layer: LANE_KINDS.layer });

export const changeLayer = defineEdit<ChangeLayer>({
  type: 'change layer',
  schema: {
    layer: rule.id,
    values: someOf(LANE_KINDS.layer, 'id', 'character', 'segments', 'keys', 'rootKeys', 'dialKeys', 'pair'),
  },
  apply: ({ scene }, { layer, values }) => {
    const lane = requireLayer(scene, layer);
    Object.assign(lane, castDraft(values));
    requireValid(schema, snapshot(lane), `lanes.${layer}`);
    requireTarget(scene, lane.character, lane.look);
  },
  describe: ({ layer, values }, scene) =>
    `${calledFields(LANE_KINDS.layer, values)} of the layer ${layerName(scene, layer)}`.trim(),
});
