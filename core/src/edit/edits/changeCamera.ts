import { castDraft } from 'immer';
import type { Camera } from '../../scene/camera';
import { CAMERA_FIELDS } from '../../scene/camera';
import { calledFields, schemaOf } from '../../scene/fields';
import { requireFilmed } from '../cameras';
import { defineEdit, requireValid, rule, someOf } from '../defineEdit';
import { lookup } from '../lookup';
import { snapshot } from '../snapshot';

/** Sets values of a camera. */
export interface ChangeCamera {
  readonly type: 'change camera';
  readonly camera: string;
  readonly values: Partial<Omit<Camera, 'id'>>;
}

const schema = schemaOf(CAMERA_FIELDS);

export const changeCamera = defineEdit<ChangeCamera>({
  type: 'change camera',
  schema: { camera: rule.id, values: someOf(CAMERA_FIELDS, 'id') },
  apply: ({ scene }, { camera: id, values }) => {
    const camera = lookup(scene.cameras, id, 'camera');
    const { name } = camera;
    Object.assign(camera, castDraft(values));
    camera.name = String(camera.name).trim().slice(0, 200) || name;
    const changed = snapshot<Camera>(camera);
    requireValid(schema, changed, `cameras.${id}`);
    requireFilmed(scene, changed);
  },
  describe: ({ camera, values }, scene) =>
    `${calledFields(CAMERA_FIELDS, asked(values))} of ${scene.cameras[camera]?.name ?? 'a camera'}`,
});

/** What was asked for: whoever follows somebody else keeps where it stands by other values and keys, which follow from that. */
function asked({ base, keys, ...others }: ChangeCamera['values']): ChangeCamera['values'] {
  return Object.keys(others).length > 0 ? others : { ...(base && { base }), ...(keys && { keys }) };
}
