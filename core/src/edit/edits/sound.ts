import { castDraft } from 'immer';
import { schemaOf } from '../../scene/fields';
import type { Sound } from '../../scene/sound';
import { SOUND_FIELDS } from '../../scene/sound';
import { defineEdit, requireValid, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Adds a sound, or puts it in place of the one with its id. */
export interface SetSound {
  readonly type: 'sound';
  readonly sound: Sound;
}

const schema = schemaOf(SOUND_FIELDS);

export const sound = defineEdit<SetSound>({
  type: 'sound',
  schema: { sound: rule.entity },
  apply: ({ scene }, { sound }) => {
    requireValid(schema, sound, `sounds.${sound.id}`);
    lookup(scene.soundLanes, sound.lane, 'sound lane');
    scene.sounds[sound.id] = castDraft(sound);
  },
  describe: ({ sound }, scene) => `${scene.sounds[sound.id] ? '' : 'new '}sound ${sound.name}`,
});
