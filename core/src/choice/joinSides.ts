import { cloudJoints, writeCloud } from '../clip/pointCloud';
import { makePoseBuffer, makeWorldPose, poseToWorld, toParentSpace } from '../clip/pose';
import type { SegmentPlan } from '../plan/plan';
import { isPlanted } from '../plan/planted';
import { segmentPose } from '../plan/segmentPose';

/** One side of a join, read at whole frames: where its joints and its root are, and which feet stand. */
export interface JoinSide {
  readonly segment: SegmentPlan;
  /** First of the frames, from the start of the segment, and how many there are. */
  readonly first: number;
  readonly frames: number;
  /** frames x joints x 3, metres. */
  readonly places: Float64Array;
  /** frames x (x, z, heading). */
  readonly roots: Float64Array;
  /** frames x planted joints: whether it stands. */
  readonly planted: Uint8Array;
}

/** Reads a side over frames [first, end) from the segment's start. */
export function readSide(segment: SegmentPlan, first: number, end: number): JoinSide {
  const { skeleton } = segment.clip;
  const joints = cloudJoints(skeleton);
  const frames = Math.max(0, end - first);
  const places = new Float64Array(frames * joints.length * 3);
  const roots = new Float64Array(frames * 3);
  const feet = segment.steps().joints;
  const planted = new Uint8Array(frames * feet.length);
  const buffer = makePoseBuffer(skeleton);
  const world = makeWorldPose(skeleton);
  for (let f = 0; f < frames; f++) {
    const frame = segment.start + first + f;
    const pose = toParentSpace(skeleton, segmentPose(segment, frame, true, buffer));
    roots.set(pose.root, f * 3);
    writeCloud(poseToWorld(skeleton, pose, world), joints, places, f * joints.length * 3);
    for (let j = 0; j < feet.length; j++)
      planted[f * feet.length + j] =
        segment.travel !== 'in place' && isPlanted(segment, feet[j]!.joint, frame) ? 1 : 0;
  }
  return { segment, first, frames, places, roots, planted };
}
