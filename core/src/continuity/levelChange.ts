import { makePoseBuffer, makeWorldPose, poseToWorld, toParentSpace } from '../clip/pose';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { isPlanted } from '../plan/planted';
import { segmentPose } from '../plan/segmentPose';

/**
 * By how much the ground that a character stands on lies higher behind a seam than before it, centimetres: the planted feet of both
 * sides stand on the floor of their own clips, and one of them may have climbed. The body would go up or down through the air.
 *
 * @returns null where no foot stands on both sides
 */
export function levelChange(plan: CharacterPlan, index: number): number | null {
  const [before, after] = [plan.segments[index]!, plan.segments[index + 1]!];
  const [leaves, comes] = [after.start - 1, after.start + after.overlap];
  let most: number | null = null;
  for (const { joint } of after.steps().joints) {
    const [a, b] = [standing(before, joint, leaves), standing(after, joint, comes)];
    if (a === null || b === null) continue;
    const change = (b - a) * 100;
    if (most === null || Math.abs(change) < Math.abs(most)) most = change;
  }
  return most;
}

/** Height of a joint where it stands, metres; null where it does not. */
function standing(segment: SegmentPlan, joint: number, frame: number): number | null {
  if (!isPlanted(segment, joint, frame)) return null;
  const { skeleton } = segment.clip;
  const pose = toParentSpace(skeleton, segmentPose(segment, frame, true, makePoseBuffer(skeleton)));
  return poseToWorld(skeleton, pose, makeWorldPose(skeleton)).positions[joint * 3 + 1]!;
}
