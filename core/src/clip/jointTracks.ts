import type { Clip } from './clip';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from './pose';

/**
 * World positions of chosen joints at every sample of a clip.
 *
 * @returns frames x joints.length x 3, metres
 */
export function jointTracks(clip: Clip, joints: readonly number[]): Float64Array {
  const buffer = makePoseBuffer(clip.skeleton);
  const world = makeWorldPose(clip.skeleton);
  const out = new Float64Array(clip.frames * joints.length * 3);
  let at = 0;
  for (let f = 0; f < clip.frames; f++) {
    poseToWorld(clip.skeleton, samplePose(clip, f, buffer), world);
    for (const joint of joints) for (let k = 0; k < 3; k++) out[at++] = world.positions[joint * 3 + k]!;
  }
  return out;
}
