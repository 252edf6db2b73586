import type { Pose, PoseBuffer } from '../clip/pose';
import { makeWorldPose, poseToWorld, toParentSpace } from '../clip/pose';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { hasSamples, segmentPose } from '../plan/segmentPose';

/** Joint places and root of consecutive frames. */
export interface Window {
  /** frames x joints x 3, metres; NaN where a source has no samples. */
  readonly places: Float64Array;
  /** frames x 3: x, z, heading. */
  readonly roots: Float64Array;
}

/** Reads the motion of a source by itself, where its clip was put; null where it has none at a frame. */
export const sourceReader =
  (segment: SegmentPlan, seamFrame: number, buffer: PoseBuffer) =>
  (frame: number): Pose | null =>
    ownMotion(segment, frame, seamFrame)
      ? toParentSpace(segment.clip.skeleton, segmentPose(segment, frame, true, buffer))
      : null;

/** Whether a source shows motion of its own at a frame; one that ended before a gap holds still. */
function ownMotion(segment: SegmentPlan, frame: number, seamFrame: number): boolean {
  if (!hasSamples(segment, frame)) return false;
  return !(segment.end < seamFrame && frame > segment.end - 1);
}

/** Reads joint places and the root over frames [from, from + count). */
export function readWindow(
  plan: CharacterPlan,
  joints: readonly number[],
  from: number,
  count: number,
  read: (frame: number) => Pose | null,
): Window {
  const places = new Float64Array(count * joints.length * 3).fill(NaN);
  const roots = new Float64Array(count * 3).fill(NaN);
  const world = makeWorldPose(plan.skeleton);
  for (let i = 0; i < count; i++) {
    const pose = read(from + i);
    if (!pose) continue;
    poseToWorld(plan.skeleton, pose, world);
    roots.set(pose.root, i * 3);
    joints.forEach((joint, j) => {
      for (let k = 0; k < 3; k++) places[(i * joints.length + j) * 3 + k] = world.positions[joint * 3 + k]!;
    });
  }
  return { places, roots };
}
