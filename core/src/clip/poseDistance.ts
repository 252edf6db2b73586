import { derivation, Memory } from '../memory/memory';
import { STILL } from '../math/floorMove';
import { cloudDistance, fitPoints } from '../math/pointFit';
import type { Clip } from './clip';
import { cloudJoints, writeCloud } from './pointCloud';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from './pose';
import { jointTracks } from './jointTracks';

/** The share of accelerations that lie below the one given. */
const NINETY_NINE = 0.99;

const acceleration = derivation('typical acceleration', 5000, (_, clip: Clip): number => {
  const joints = cloudJoints(clip.skeleton);
  const tracks = jointTracks(clip, joints);
  const width = joints.length * 3;
  const all: number[] = [];
  for (let f = 1; f + 1 < clip.frames; f++)
    for (let j = 0; j < width; j += 3) {
      const a = [0, 1, 2].map(
        (k) =>
          tracks[(f + 1) * width + j + k]! -
          2 * tracks[f * width + j + k]! +
          tracks[(f - 1) * width + j + k]!,
      );
      all.push(Math.hypot(...a) * clip.rate * clip.rate);
    }
  all.sort((p, q) => p - q);
  return all[Math.floor(NINETY_NINE * (all.length - 1))] ?? 0;
});

/** The 99th percentile of the joints' accelerations over a clip, metres a second squared. */
export const typicalAcceleration = (clip: Clip, memory = new Memory()): number =>
  memory.recall(acceleration, clip);

/** How far apart two poses of one skeleton are under the best floor move, metres. */
export interface PoseDistance {
  /** Root mean square over the joints. */
  readonly mean: number;
  /** Of the joint that is furthest from its counterpart. */
  readonly worst: number;
}

/** Compares two poses of one skeleton, heights included. */
export function poseDistance(a: Clip, sampleA: number, b: Clip, sampleB: number): PoseDistance {
  const joints = cloudJoints(a.skeleton);
  const first = cloudAt(a, sampleA, joints);
  const second = cloudAt(b, sampleB, joints);
  const weights = new Float64Array(joints.length).fill(1);
  const move = fitPoints(first, second, weights) ?? STILL;
  let worst = 0;
  const one = Float64Array.of(1);
  for (let p = 0; p < first.length; p += 3)
    worst = Math.max(worst, cloudDistance(first.subarray(p, p + 3), second.subarray(p, p + 3), one, move));
  return { mean: cloudDistance(first, second, weights, move), worst };
}

function cloudAt(clip: Clip, sample: number, joints: readonly number[]): Float64Array {
  const world = makeWorldPose(clip.skeleton);
  poseToWorld(clip.skeleton, samplePose(clip, sample, makePoseBuffer(clip.skeleton)), world);
  const cloud = new Float64Array(joints.length * 3);
  writeCloud(world, joints, cloud, 0);
  return cloud;
}
