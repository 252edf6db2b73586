import { minimumJerk } from '../math/curve';
import { quatSlerp } from '../math/quaternion';
import type { Plan } from '../plan/plan';
import type { Shot } from '../scene/shot';
import { cameraAt } from './cameraMotion';
import type { CameraPose } from './cameraPose';
import { makeCameraPose } from './cameraPose';

/** Index of the shot that is seen at a frame: between shots the one before, before them all the first; -1 without any. */
export function shotIndexAt(shots: readonly Shot[], frame: number): number {
  let index = shots.length > 0 ? 0 : -1;
  while (index >= 0 && index + 1 < shots.length && shots[index + 1]!.start <= frame) index++;
  return index;
}

const _other = makeCameraPose();

/**
 * Writes what the scene is seen from at a frame: the camera of its shot, or in a blend one on the way to it from the camera of the shot
 * before, whose place, rotation and field it leaves and reaches without a jerk.
 *
 * @returns the shot; null where the scene has none, and nothing is written
 */
export function shotPoseAt(plan: Plan, frame: number, out: CameraPose): Shot | null {
  const { shots, cameras } = plan.filming;
  const index = shotIndexAt(shots, frame);
  const shot = shots[index];
  const camera = shot && cameras.find((c) => c.id === shot.camera);
  if (!shot || !camera) return null;
  cameraAt(plan, camera, frame, out);
  const before = shots[index - 1];
  const other = before && cameras.find((c) => c.id === before.camera);
  const passed = frame - shot.start + 1;
  if (!other || other === camera || passed > shot.blend || passed <= 0) return shot;
  const left = 1 - minimumJerk(passed / (shot.blend + 1));
  cameraAt(plan, other, frame, _other);
  for (let k = 0; k < 3; k++) out.place[k]! += left * (_other.place[k]! - out.place[k]!);
  quatSlerp(out.rotation, 0, _other.rotation, 0, left, out.rotation, 0);
  out.lens += left * (_other.lens - out.lens);
  out.halfHeight += left * (_other.halfHeight - out.halfHeight);
  return shot;
}
