import type { Clip } from './clip';
import { makePose, makeWorldPose, poseToWorld, samplePose } from './pose';

/**
 * World positions of chosen joints at every sample of a clip.
 *
 * @returns frames x joints.length x 3, metres
 */
export function jointTracks(clip: Clip, joints: readonly number[]): Float64Array {
  const pose = makePose(clip.skeleton);
  const world = makeWorldPose(clip.skeleton);
  const out = new Float64Array(clip.frames * joints.length * 3);
  let at = 0;
  for (let f = 0; f < clip.frames; f++) {
    samplePose(clip, f, pose);
    poseToWorld(clip.skeleton, pose, world);
    for (const joint of joints) for (let k = 0; k < 3; k++) out[at++] = world.positions[joint * 3 + k]!;
  }
  return out;
}
