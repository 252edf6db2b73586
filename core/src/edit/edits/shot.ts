import { castDraft } from 'immer';
import { schemaOf } from '../../scene/fields';
import type { Shot } from '../../scene/shot';
import { SHOT_FIELDS } from '../../scene/shot';
import { makeRoomForShot } from '../shots';
import { defineEdit, requireValid, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Adds a shot, or puts it in place of the one with its id; others make room: what it covers of them is cut away. */
export interface SetShot {
  readonly type: 'shot';
  readonly shot: Shot;
}

const schema = schemaOf(SHOT_FIELDS);

export const shot = defineEdit<SetShot>({
  type: 'shot',
  schema: { shot: rule.entity },
  apply: ({ scene }, { shot }) => {
    requireValid(schema, shot, `shots.${shot.id}`);
    lookup(scene.cameras, shot.camera, 'camera');
    delete scene.shots[shot.id];
    makeRoomForShot(scene.shots, shot);
    scene.shots[shot.id] = castDraft(shot);
  },
  describe: ({ shot }) => `shot ${shot.name}`,
});
