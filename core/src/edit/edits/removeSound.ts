import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Removes a sound from its lane; its file stays in the library. */
export interface RemoveSound {
  readonly type: 'remove sound';
  readonly sound: string;
}

export const removeSound = defineEdit<RemoveSound>({
  type: 'remove sound',
  schema: { sound: rule.id },
  apply: ({ scene }, { sound }) => {
    lookup(scene.sounds, sound, 'sound');
    delete scene.sounds[sound];
  },
  describe: ({ sound }, scene) => `removal of ${scene.sounds[sound]?.name ?? 'a sound'}`,
});
