import { castDraft } from 'immer';
import { calledFields, schemaOf } from '../../scene/fields';
import type { Shot } from '../../scene/shot';
import { SHOT_FIELDS } from '../../scene/shot';
import { defineEdit, requireValid, rule, someOf } from '../defineEdit';
import { lookup } from '../lookup';
import { layShot } from '../shots';
import { snapshot } from '../snapshot';

/**
 * Sets values of a shot. Where its start or end moves, a neighbour that joins it there becomes longer or shorter; every shot keeps a frame
 * at least.
 */
export interface ChangeShot {
  readonly type: 'change shot';
  readonly shot: string;
  readonly values: Partial<Omit<Shot, 'id'>>;
}

const schema = schemaOf(SHOT_FIELDS);

export const changeShot = defineEdit<ChangeShot>({
  type: 'change shot',
  schema: { shot: rule.id, values: someOf(SHOT_FIELDS, 'id') },
  apply: ({ scene }, { shot: id, values }) => {
    const shot = lookup(scene.shots, id, 'shot');
    const { start = shot.start, end = shot.end, ...others } = values;
    const { name } = shot;
    Object.assign(shot, castDraft(others));
    shot.name = String(shot.name).trim().slice(0, 200) || name;
    layShot(scene.shots, id, start, end);
    requireValid(schema, snapshot<Shot>(shot), `shots.${id}`);
    lookup(scene.cameras, shot.camera, 'camera');
  },
  describe: ({ shot, values }, scene) =>
    'start' in values && 'end' in values
      ? `move of the shot ${scene.shots[shot]?.name ?? ''}`.trim()
      : `${calledFields(SHOT_FIELDS, values)} of the shot ${scene.shots[shot]?.name ?? ''}`.trim(),
});
