import type { CameraPose } from '@warper/core';
import type { PerspectiveCamera } from 'three';

/** Metres between which a camera sees. */
const NEAR = 0.05;
const FAR = 200;

/** Puts a camera of three where one of the scene stands, for a picture so many times as wide as high. */
export function applyCameraPose(
  camera: PerspectiveCamera,
  { place, rotation, halfHeight }: Pick<CameraPose, 'place' | 'rotation' | 'halfHeight'>,
  aspect: number,
): void {
  camera.position.fromArray(place);
  camera.quaternion.fromArray(rotation);
  camera.fov = (2 * Math.atan(halfHeight) * 180) / Math.PI;
  camera.aspect = aspect;
  camera.near = NEAR;
  camera.far = FAR;
  camera.updateProjectionMatrix();
  camera.updateMatrixWorld();
}
