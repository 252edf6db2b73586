import { castDraft } from 'immer';
import type { Camera } from '../../scene/camera';
import { CAMERA_FIELDS } from '../../scene/camera';
import { schemaOf } from '../../scene/fields';
import { requireFilmed } from '../cameras';
import { defineEdit, requireValid, rule } from '../defineEdit';

/** Adds a camera, or puts it in place of the one with its id. */
export interface SetCamera {
  readonly type: 'camera';
  readonly camera: Camera;
}

const schema = schemaOf(CAMERA_FIELDS);

export const camera = defineEdit<SetCamera>({
  type: 'camera',
  schema: { camera: rule.entity },
  apply: ({ scene }, { camera }) => {
    requireValid(schema, camera, `cameras.${camera.id}`);
    requireFilmed(scene, camera);
    if (!scene.cameras[camera.id]) scene.cameraOrder.push(camera.id);
    scene.cameras[camera.id] = castDraft(camera);
  },
  describe: ({ camera }, scene) => `${scene.cameras[camera.id] ? '' : 'new '}camera ${camera.name}`,
});
