import type { Camera, CameraPose, Plan, Shot } from '@warper/core';
import { cameraAt, shotPoseAt } from '@warper/core';

/** What is looked through: a camera, or a shot. */
export interface Filmed {
  readonly camera: Camera;
  readonly shot: Shot | null;
}

/**
 * Writes what is looked through at a frame: the chosen camera, else the shot's there, else the first camera.
 *
 * @param filmedBy id of the chosen camera; null for the shots
 * @returns null where the scene has no camera
 */
export function filmedPose(
  plan: Plan,
  filmedBy: string | null,
  frame: number,
  out: CameraPose,
): Filmed | null {
  const { cameras } = plan.filming;
  const chosen = cameras.find((c) => c.id === filmedBy);
  const shot = chosen ? null : shotPoseAt(plan, frame, out);
  const camera = chosen ?? cameras.find((c) => c.id === shot?.camera) ?? cameras[0];
  if (!camera) return null;
  if (!shot) cameraAt(plan, camera, frame, out);
  return { camera, shot };
}

/** Where a picture of an aspect lies in a field, pixels from its left and top: as large as it can be, in the middle. */
export function pictureIn(
  field: { readonly width: number; readonly height: number },
  aspect: number,
): { readonly left: number; readonly top: number; readonly width: number; readonly height: number } {
  const width = Math.min(field.width, field.height * aspect);
  const height = width / aspect;
  return { left: (field.width - width) / 2, top: (field.height - height) / 2, width, height };
}

/** Share of the view's width that the inset takes, and pixels between it and the sides. */
const INSET = { share: 0.36, most: 0.45, gap: 8, below: 28 } as const;

/** Where the picture in the corner of a view lies. */
export function insetIn(field: { readonly width: number; readonly height: number }, aspect: number) {
  const { width, height } = pictureIn(
    { width: field.width * INSET.share, height: field.height * INSET.most },
    aspect,
  );
  return { left: field.width - width - INSET.gap, top: field.height - height - INSET.below, width, height };
}

const loose = new WeakMap<Camera, Camera>();

/** A camera that keeps nobody in its picture and is held still: where it stands by its keys, and with whom it goes. */
export const looseOf = (camera: Camera): Camera => {
  if (!camera.keep && !camera.hand) return camera;
  const known = loose.get(camera) ?? { ...camera, keep: null, hand: null };
  loose.set(camera, known);
  return known;
};

const loosePlans = new WeakMap<Plan, Plan>();

/** A plan whose cameras keep nobody in their pictures and are held still: quick to ask, for while what they film is being dragged. */
export function withLooseCameras(plan: Plan): Plan {
  const { filming } = plan;
  const known = loosePlans.get(plan) ?? {
    ...plan,
    filming: { ...filming, cameras: filming.cameras.map(looseOf) },
  };
  loosePlans.set(plan, known);
  return known;
}
