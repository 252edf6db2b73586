import { castDraft } from 'immer';
import { CAMERA_CURVES } from '../../scene/camera';
import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Moves all keys that a camera has at a frame to another; keys that are there give way. */
export interface MoveCameraKeys {
  readonly type: 'move camera keys';
  readonly camera: string;
  readonly from: number;
  readonly to: number;
}

export const moveCameraKeys = defineEdit<MoveCameraKeys>({
  type: 'move camera keys',
  schema: { camera: rule.id, from: rule.number, to: rule.number },
  apply: ({ scene }, { camera: id, from, to }) => {
    const camera = lookup(scene.cameras, id, 'camera');
    const frame = Math.min(1e7, Math.max(-1e7, Math.round(to)));
    for (const curve of CAMERA_CURVES) {
      const keys = camera.keys[curve];
      const key = keys?.find((k) => k.frame === from);
      if (!keys || !key || frame === from) continue;
      const others = keys.filter((k) => k.frame !== from && k.frame !== frame);
      camera.keys[curve] = castDraft([...others, { ...key, frame }].sort((a, b) => a.frame - b.frame));
    }
  },
  describe: ({ camera, to }, scene) => `keys of ${scene.cameras[camera]?.name ?? 'a camera'} to frame ${to}`,
});
