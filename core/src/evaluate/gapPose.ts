import type { PoseBuffer, RootPose, ScenePose } from '../clip/pose';
import { written } from '../clip/pose';
import { curveWeight } from '../math/curve';
import { framesPerSecond } from '../math/rate';
import { blendPoses, fromRootSpace } from '../plan/blendPoses';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { segmentPose } from '../plan/segmentPose';
import { settlePose } from '../plan/settlePose';

/** Longest time in which a body comes to its rest pose in a gap, and leaves it, seconds; never over a third of the gap. */
const TO_REST = 0.5;

/** Writes the rest pose of a character without segments, where it is to start. */
export function restAtStart(plan: CharacterPlan, out: PoseBuffer): ScenePose {
  const { start, prop } = plan.character;
  out.root.set(start ? [start.x, start.z, (start.heading * Math.PI) / 180] : plan.rest.root);
  const pose = restOn(out.root, plan, out);
  if (prop) pose.translations[plan.skeleton.rootBone * 3 + 1]! += prop.raised;
  return pose;
}

/** Writes the rest pose standing on a root. */
function restOn(root: Float64Array, { rest, skeleton }: CharacterPlan, out: PoseBuffer): ScenePose {
  out.rotations.set(rest.rotations);
  out.translations.set(rest.translations);
  out.root.set(root);
  return fromRootSpace(written<RootPose>(out), skeleton.rootBone);
}

/** Writes the pose before the first segment: its first one, or a part of the way to it from the rest pose. */
export function leadInPose(plan: CharacterPlan, frame: number, out: PoseBuffer): ScenePose {
  const first = plan.segments[0]!;
  const pose = firstPose(first, out);
  if (plan.leadIn === 0) return pose;
  return easedFromRest(plan, Math.max(0, 1 - (first.start - frame) / plan.leadIn), pose);
}

/**
 * Takes a pose a part of the way back to the rest pose, where its root stands; in its own memory.
 *
 * @param share of the time from the rest pose, at 0, to the pose, at 1
 */
export function easedFromRest(plan: CharacterPlan, share: number, pose: ScenePose): ScenePose {
  const w = curveWeight('smooth', share);
  return blendPoses(plan.skeleton.rootBone, 1 - w, pose, restOn(pose.root, plan, plan.scratch));
}

/** Writes the pose in the gap between two segments. */
export function gapPose(
  plan: CharacterPlan,
  before: SegmentPlan,
  next: SegmentPlan,
  frame: number,
  out: PoseBuffer,
): ScenePose {
  const { rootBone } = plan.skeleton;
  const { gap } = next.settings.seam;
  const last = before.end - 1;
  const left = lastPose(before, out);
  if (gap === 'hold') return left;
  const length = next.start - last;
  const passed = frame - last;
  if (gap === 'ease')
    return blendPoses(rootBone, curveWeight('smooth', passed / length), left, firstPose(next, plan.scratch));
  const ramp = Math.min(length / 3, TO_REST * framesPerSecond(plan.rate));
  if (passed < ramp) {
    const rest = restOn(left.root, plan, plan.scratch);
    return blendPoses(rootBone, curveWeight('smooth', passed / ramp), left, rest);
  }
  const restBefore = restOn(left.root, plan, plan.layerScratch);
  const coming = firstPose(next, plan.scratch);
  const restAfter = restOn(coming.root, plan, out);
  const remaining = length - passed;
  if (remaining < ramp)
    return blendPoses(rootBone, 1 - curveWeight('smooth', remaining / ramp), restAfter, coming);
  // Where the two sides stand apart, as with free fits, the resting body is moved across between them.
  const across = curveWeight('smooth', (remaining - ramp) / (length - 2 * ramp));
  return blendPoses(rootBone, across, restAfter, restBefore);
}

const firstPose = (segment: SegmentPlan, out: PoseBuffer): ScenePose =>
  settledPose(segment, segment.start, out);

const lastPose = (segment: SegmentPlan, out: PoseBuffer): ScenePose =>
  settledPose(segment, segment.end - 1, out);

/** Writes a segment's pose with what is left of the difference that it settles. */
export function settledPose(segment: SegmentPlan, frame: number, out: PoseBuffer): ScenePose {
  const pose = segmentPose(segment, frame, false, out);
  if (segment.settle) settlePose(segment.settle, frame - segment.start, segment.clip, pose);
  return pose;
}
