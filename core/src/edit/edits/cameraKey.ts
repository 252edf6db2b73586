import Joi from 'joi';
import type { CameraCurve } from '../../scene/camera';
import { CAMERA_CURVES, LENS } from '../../scene/camera';
import type { KeyCurve } from '../../scene/keys';
import { KEY_CURVES } from '../../scene/keys';
import { finite } from '../../scene/rules';
import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';
import { putKey } from '../putKey';

/**
 * Puts keys on curves of a camera at one frame, in place of those that were there; null takes one away, and the last one that goes leaves
 * its value behind. Curves that are not named keep theirs.
 */
export interface CameraKey {
  readonly type: 'camera key';
  readonly camera: string;
  readonly frame: number;
  readonly values: Readonly<Partial<Record<CameraCurve, number | null>>>;
  readonly curve: KeyCurve;
}

const CLAMPED: Readonly<Partial<Record<CameraCurve, readonly [number, number]>>> = {
  lens: [LENS.least, LENS.most],
  along: [0, 1],
};

export const cameraKey = defineEdit<CameraKey>({
  type: 'camera key',
  schema: {
    camera: rule.id,
    frame: Joi.number().integer().min(-1e7).max(1e7).required(),
    values: Joi.object(Object.fromEntries(CAMERA_CURVES.map((c) => [c, finite.allow(null)]))).required(),
    curve: Joi.valid(...KEY_CURVES.filter((c) => c !== 'free')).required(),
  },
  apply: ({ scene }, { camera: id, frame, values, curve }) => {
    const camera = lookup(scene.cameras, id, 'camera');
    for (const name of CAMERA_CURVES) {
      const value = values[name];
      if (value === undefined) continue;
      const last = camera.keys[name];
      if (value === null) {
        if (last?.length === 1 && last[0]?.frame === frame) camera.base[name] = last[0].value;
        putKey(camera.keys, name, { frame, value });
        continue;
      }
      const [least, most] = CLAMPED[name] ?? [-Infinity, Infinity];
      const clamped = Math.min(most, Math.max(least, value));
      putKey(camera.keys, name, { frame, value: clamped, curve, tangent: null, into: null });
    }
  },
  describe: ({ camera, frame }, scene) =>
    `key of ${scene.cameras[camera]?.name ?? 'a camera'} at frame ${frame}`,
});
