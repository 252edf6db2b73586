import { placeTravelBone } from '../clip/travelBone';
import type { Pose } from '../clip/pose';
import { curveWeight } from '../math/curve';
import { rootBoneToLocal } from '../skeleton/rootBone';
import { blendPoses } from '../plan/blendPoses';
import { layerPose } from './layerPose';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { gapPose, leadInPose, restAtStart } from './gapPose';
import { segmentAt } from '../plan/segmentAt';
import { segmentPose, segmentsBlended } from '../plan/segmentPose';
import { settlePose } from '../plan/settlePose';

/** The pose before its feet are held. */
export function evaluateUnlocked(plan: CharacterPlan, frame: number, out: Pose): Pose {
  const { segments } = plan;
  const i = segmentAt(segments, frame);
  if (segments.length === 0) restAtStart(plan, out);
  else if (i < 0) leadInPose(plan, frame, out);
  else if (inGap(segments[i]!, segments[i + 1], frame))
    gapPose(plan, segments[i]!, segments[i + 1]!, frame, out);
  else {
    const segment = segments[i]!;
    const next = segments[i + 1];
    // Where nothing follows at once, the last whole frame is held.
    const last = next && next.start <= segment.end ? frame : Math.min(frame, segment.end - 1);
    const before = segments[i - 1];
    if (before && frame < segment.start + segment.overlap) {
      const w = curveWeight(segment.curve, (frame - segment.start) / segment.overlap);
      if (w <= 0) placedPose(before, frame, out);
      else if (
        before.settle ||
        segment.settle ||
        !segmentsBlended(before, segment, frame, last, w, out, plan.scratch)
      ) {
        placedPose(before, frame, out);
        placedPose(segment, last, plan.scratch);
        blendPoses(plan.skeleton.rootBone, w, out, plan.scratch);
      }
    } else placedPose(segment, last, out);
  }
  if (plan.layers.length > 0) layerPose(plan, frame, out);
  if (plan.travelBone) placeTravelBone(plan.skeleton, plan.travelBone.joint, plan.travelBone.turned, out);
  rootBoneToLocal(plan.skeleton, out.rotations, out.translations);
  return out;
}

/** Whether a frame lies between the last frame of a segment and the next one. */
const inGap = (segment: SegmentPlan, next: SegmentPlan | undefined, frame: number): boolean =>
  next !== undefined && next.start > segment.end && frame > segment.end - 1;

/** A segment's pose with what is left of the difference that it settles. */
function placedPose(segment: SegmentPlan, frame: number, out: Pose): void {
  segmentPose(segment, frame, false, out);
  if (segment.settle) settlePose(segment.settle, frame - segment.start, segment.clip, out);
}
