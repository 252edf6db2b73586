import type { Camera, CameraCurve, CameraStand, Edit, Plan, Scene, Shot } from '@warper/core';
import { PLAIN_CAMERA, PLAIN_SHOT, cameraEdit, cameraValuesAt, lensFor, shotsInOrder } from '@warper/core';
import { freshId } from '../../../data/freshId';
import { freeName } from '../drawer/freeName';
import type { ViewStand } from '../view/viewStand';

const AIM: readonly CameraCurve[] = ['aimX', 'aimY', 'aimZ'];

/** The edit that puts a camera, or its aim, to another place at a frame, whatever it goes along with. */
export function standEdit(
  plan: Plan,
  camera: Camera,
  frame: number,
  { only, ...stand }: CameraStand & { readonly only: 'place' | 'aim' },
): Edit {
  const values = Object.entries(cameraValuesAt(plan, camera, frame, stand)).filter(
    ([curve]) => AIM.includes(curve as CameraCurve) === (only === 'aim'),
  );
  return cameraEdit(camera, frame, Object.fromEntries(values));
}

/** The edit that puts a camera where the view looks from. What it looks at or follows stays what it is. */
export function standAtView(plan: Plan, camera: Camera, frame: number, view: ViewStand): Edit {
  const lens = lensFor(view.halfHeight, camera.back, plan.filming.aspect);
  const { look } = camera;
  const values = Object.entries({ ...cameraValuesAt(plan, camera, frame, view), lens, roll: 0 }).filter(
    // Whom it looks at stays in the middle of its picture.
    ([curve]) => !look || !AIM.includes(curve as CameraCurve),
  );
  return cameraEdit(camera, frame, Object.fromEntries(values));
}

/** A camera that sees what the view sees. */
export function cameraFromView(scene: Scene, plan: Plan, view: ViewStand): Camera {
  const [x, y, z] = view.place;
  const [aimX, aimY, aimZ] = view.aim;
  const lens = lensFor(view.halfHeight, PLAIN_CAMERA.back, plan.filming.aspect);
  return {
    ...PLAIN_CAMERA,
    id: freshId('camera'),
    name: freeName(
      `Camera ${scene.cameraOrder.length + 1}`,
      Object.values(scene.cameras).map((c) => c.name),
    ),
    base: { ...PLAIN_CAMERA.base, x, y, z, aimX, aimY, aimZ, lens },
  };
}

/** A shot of a camera from a frame on: to the end of the shot that is seen there, else to the next one, else to the scene's end. */
export function shotFrom(scene: Scene, plan: Plan, camera: string, frame: number): Shot {
  const order = shotsInOrder(scene.shots);
  const seen = order.findLast((s) => s.start <= frame && frame < s.end);
  const next = order.find((s) => s.start > frame);
  const end = seen?.end ?? next?.start ?? Math.max(plan.end, frame + 1);
  return {
    ...PLAIN_SHOT,
    id: freshId('shot'),
    name: freeName(
      `Shot ${order.length + 1}`,
      order.map((s) => s.name),
    ),
    camera,
    start: frame,
    end: Math.max(frame + 1, end),
  };
}
