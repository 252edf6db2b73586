import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Removes a sound lane with its sounds; their files stay in the library. */
export interface RemoveSoundLane {
  readonly type: 'remove sound lane';
  readonly lane: string;
}

export const removeSoundLane = defineEdit<RemoveSoundLane>({
  type: 'remove sound lane',
  schema: { lane: rule.id },
  apply: ({ scene }, { lane }) => {
    lookup(scene.soundLanes, lane, 'sound lane');
    delete scene.soundLanes[lane];
    scene.soundLaneOrder = scene.soundLaneOrder.filter((l) => l !== lane);
    for (const sound of Object.values(scene.sounds)) if (sound.lane === lane) delete scene.sounds[sound.id];
  },
  describe: ({ lane }, scene) => `removal of the sound lane ${scene.soundLanes[lane]?.name ?? ''}`.trim(),
});
