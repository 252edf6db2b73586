import { cameraAt } from '../cameras/cameraMotion';
import { gateOf, makeCameraPose } from '../cameras/cameraPose';
import { framesPerSecond } from '../math/rate';
import type { Plan } from '../plan/plan';
import type { Camera } from '../scene/camera';
import { bakedFrames } from './bake';

/** A camera sampled at even times. It looks along its own -Z, with +Y up. */
export interface BakedCamera {
  readonly name: string;
  /** Samples a second. */
  readonly rate: number;
  readonly frames: number;
  /** frames x 3, metres. */
  readonly places: Float32Array;
  /** frames x 4, xyzw, each the nearer of its two signs to the one before. */
  readonly rotations: Float32Array;
  /** Angle from the bottom of the picture to its top at each frame, radians. */
  readonly fields: Float32Array;
  /** Focal length at each frame, millimetres. */
  readonly lenses: Float64Array;
  /** Width and height of the part of its film back that is seen, millimetres. */
  readonly gate: readonly [number, number];
}

/**
 * Samples a camera over scene frames [from, to), as performances are baked.
 *
 * @param rate samples a second; the scene's by default
 */
export function bakeCamera(
  plan: Plan,
  camera: Camera,
  { from, to }: { readonly from: number; readonly to: number },
  rate = framesPerSecond(plan.rate),
): BakedCamera {
  const perSecond = framesPerSecond(plan.rate);
  const frames = bakedFrames(from, to, rate, perSecond);
  const places = new Float32Array(frames * 3);
  const rotations = new Float32Array(frames * 4);
  const fields = new Float32Array(frames);
  const lenses = new Float64Array(frames);
  const pose = makeCameraPose();
  for (let f = 0; f < frames; f++) {
    const { place, rotation, lens, halfHeight } = cameraAt(plan, camera, from + (f * perSecond) / rate, pose);
    places.set(place, f * 3);
    let dot = 0;
    for (let k = 0; k < 4; k++) dot += f > 0 ? rotation[k]! * rotations[(f - 1) * 4 + k]! : 1;
    for (let k = 0; k < 4; k++) rotations[f * 4 + k] = dot < 0 ? -rotation[k]! : rotation[k]!;
    fields[f] = 2 * Math.atan(halfHeight);
    lenses[f] = lens;
  }
  const gate = gateOf(camera.back, plan.filming.aspect);
  return { name: camera.name, rate, frames, places, rotations, fields, lenses, gate };
}
