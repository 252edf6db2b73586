import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Removes a camera, and the shots that are seen by it. */
export interface RemoveCamera {
  readonly type: 'remove camera';
  readonly camera: string;
}

export const removeCamera = defineEdit<RemoveCamera>({
  type: 'remove camera',
  schema: { camera: rule.id },
  apply: ({ scene }, { camera }) => {
    lookup(scene.cameras, camera, 'camera');
    delete scene.cameras[camera];
    scene.cameraOrder = scene.cameraOrder.filter((c) => c !== camera);
    for (const { id, camera: own } of Object.values(scene.shots)) if (own === camera) delete scene.shots[id];
  },
  describe: ({ camera }, scene) => `removal of ${scene.cameras[camera]?.name ?? 'a camera'}`,
});
