import type { Pose, PoseBuffer, ScenePose } from '../clip/pose';
import { toParentSpace } from '../clip/pose';
import { placeTravelBone } from '../clip/travelBone';
import { curveWeight } from '../math/curve';
import { blendAlong, blendPoses } from '../plan/blendPoses';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { segmentAt } from '../plan/segmentAt';
import { segmentsBlended } from '../plan/segmentPose';
import { branchOf } from './blendBranch';
import { stepPose } from './stepPose';
import { gapPose, leadInPose, restAtStart, settledPose } from './gapPose';
import { layerPose, rootFrameOf } from './layerPose';
import { fadeWeight } from './layerWeight';
import { lookAt } from './lookAt';

/** Writes the pose before its feet are held. */
export function evaluateUnlocked(plan: CharacterPlan, frame: number, out: PoseBuffer): Pose {
  const base = lookingPose(plan, frame, out);
  const pose = plan.layers.length > 0 ? layerPose(plan, frame, base, lookingPose) : base;
  if (plan.travelBone) placeTravelBone(plan.skeleton, plan.travelBone.joint, plan.travelBone.turned, pose);
  return toParentSpace(plan.skeleton, pose);
}

/** The numbers of what root moves depend on, for what is made of them: they may lie far from where they matter. */
export const rootFramesOf = (plan: CharacterPlan): number[] =>
  plan.layers.flatMap((layer, i) => {
    if (!layer.rootMove) return [];
    const { heading, carried } = (plan.rootFrames[i] ??= rootFrameOf(plan, i, lookingPose));
    return [heading, ...(carried ?? [])];
  });

/** Writes what the body lane has at a frame, with the head turned to what it follows. */
function lookingPose(plan: CharacterPlan, frame: number, out: PoseBuffer): ScenePose {
  const pose = basePose(plan, frame, out);
  for (const { look, start, end, fadeIn, fadeOut } of plan.looks) {
    if (frame < start - 1 || frame >= end) continue;
    const w = fadeWeight(start, end, fadeIn, fadeOut, frame);
    if (w > 0) lookAt(plan.skeleton, look, frame, w, pose);
  }
  return pose;
}

/** Writes the pose of somebody who is looked at and whom nobody holds: whatever their head follows is left out, so that two can look at each other. */
export const poseWithoutLooks = (plan: CharacterPlan, frame: number, out: PoseBuffer): ScenePose =>
  layerPose(plan, frame, basePose(plan, frame, out), basePose);

/** Writes what the body lane has at a frame. */
function basePose(plan: CharacterPlan, frame: number, out: PoseBuffer): ScenePose {
  const { segments } = plan;
  const i = segmentAt(segments, frame);
  if (segments.length === 0) return restAtStart(plan, out);
  if (i < 0) return leadInPose(plan, frame, out);
  const segment = segments[i]!;
  const before = segments[i - 1];
  const next = segments[i + 1];
  if (inGap(segment, next, frame)) return gapPose(plan, segment, next!, frame, out);
  // Where nothing follows at once, the last whole frame is held.
  const last = next && next.start <= segment.end ? frame : Math.min(frame, segment.end - 1);
  if (!before || frame >= segment.start + segment.overlap) return settledPose(segment, last, out);
  const w = curveWeight(segment.curve, (frame - segment.start) / segment.overlap);
  if (w <= 0) return settledPose(before, frame, out);
  const branch = branchOf(plan, i);
  const blended =
    branch || before.settle || segment.settle || segment.madeStep
      ? null
      : segmentsBlended(before, segment, frame, last, w, out, plan.scratch);
  if (blended) return blended;
  const outgoing = settledPose(before, frame, out);
  const incoming = settledPose(segment, last, plan.scratch);
  if (segment.madeStep)
    return stepPose(segment.madeStep, branch, before, segment, frame, w, outgoing, incoming);
  return branch
    ? blendAlong(branch, frame, plan.skeleton.rootBone, w, outgoing, incoming)
    : blendPoses(plan.skeleton.rootBone, w, outgoing, incoming);
}

/** Whether a frame lies between the last frame of a segment and the next one. */
const inGap = (segment: SegmentPlan, next: SegmentPlan | undefined, frame: number): boolean =>
  next !== undefined && next.start > segment.end && frame > segment.end - 1;
