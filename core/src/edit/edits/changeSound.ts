import { castDraft } from 'immer';
import { calledFields, schemaOf } from '../../scene/fields';
import type { Sound } from '../../scene/sound';
import { SOUND_FIELDS } from '../../scene/sound';
import { defineEdit, requireValid, rule, someOf } from '../defineEdit';
import { lookup } from '../lookup';
import { snapshot } from '../snapshot';

/** Sets values of a sound. What is played of its file stays within the file. */
export interface ChangeSound {
  readonly type: 'change sound';
  readonly sound: string;
  readonly values: Partial<Omit<Sound, 'id' | 'source' | 'seconds'>>;
}

const schema = schemaOf(SOUND_FIELDS);

/** Seconds that at least are played of a file. */
const LEAST = 0.01;

export const changeSound = defineEdit<ChangeSound>({
  type: 'change sound',
  schema: { sound: rule.id, values: someOf(SOUND_FIELDS, 'id', 'source', 'seconds') },
  apply: ({ scene }, { sound: id, values }) => {
    const sound = lookup(scene.sounds, id, 'sound');
    const { name, seconds } = sound;
    Object.assign(sound, castDraft(values));
    sound.name = String(sound.name).trim().slice(0, 200) || name;
    sound.start = Math.round(sound.start);
    sound.in = Math.min(Math.max(0, sound.in), Math.max(0, seconds - LEAST));
    sound.out = Math.min(Math.max(sound.in + LEAST, sound.out), Math.max(seconds, sound.in + LEAST));
    requireValid(schema, snapshot<Sound>(sound), `sounds.${id}`);
    lookup(scene.soundLanes, sound.lane, 'sound lane');
  },
  describe: ({ sound, values }, scene) => {
    const name = scene.sounds[sound]?.name ?? 'a sound';
    const isMoved = Object.keys(values).every((field) => field === 'start' || field === 'lane');
    const isTrimmed = Object.keys(values).every((field) => ['start', 'in', 'out', 'repeat'].includes(field));
    if (isMoved) return `move of ${name}`;
    if (isTrimmed && ('in' in values || 'out' in values)) return `trim of ${name}`;
    return `${calledFields(SOUND_FIELDS, values)} of ${name}`;
  },
});
