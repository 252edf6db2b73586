import { castDraft } from 'immer';
import { schemaOf } from '../../scene/fields';
import type { SoundLane } from '../../scene/sound';
import { SOUND_LANE_FIELDS } from '../../scene/sound';
import { defineEdit, requireValid, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Adds a sound lane below the others, or puts it in place of the one with its id. */
export interface SetSoundLane {
  readonly type: 'sound lane';
  readonly lane: SoundLane;
}

const schema = schemaOf(SOUND_LANE_FIELDS);

export const soundLane = defineEdit<SetSoundLane>({
  type: 'sound lane',
  schema: { lane: rule.entity },
  apply: ({ scene }, { lane }) => {
    requireValid(schema, lane, `soundLanes.${lane.id}`);
    if (lane.steps) lookup(scene.characters, lane.steps.character, 'character');
    if (!scene.soundLanes[lane.id]) scene.soundLaneOrder.push(lane.id);
    scene.soundLanes[lane.id] = castDraft(lane);
  },
  describe: ({ lane }, scene) => `${scene.soundLanes[lane.id] ? '' : 'new '}sound lane ${lane.name}`,
});
