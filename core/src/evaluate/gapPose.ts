import type { Pose } from '../clip/pose';
import { curveWeight } from '../math/curve';
import { blendPoses, fromRoot } from '../plan/blendPoses';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { segmentPose } from '../plan/segmentPose';
import { settlePose } from '../plan/settlePose';
import { framesPerSecond } from '../math/rate';

/** Longest time in which a body comes to its rest pose in a gap, and leaves it, seconds; never over a third of the gap. */
const TO_REST = 0.5;

/** Writes the rest pose of a character without segments, where it is to start. */
export function restAtStart(plan: CharacterPlan, out: Pose): void {
  const { start } = plan.character;
  const root = start ? [start.x, start.z, (start.heading * Math.PI) / 180] : plan.rest.root;
  plan.scratch.root.set(root);
  restOn(plan.scratch, plan, out);
}

/** Writes the rest pose standing on the root of another pose. */
function restOn({ root }: Pose, { rest, skeleton }: CharacterPlan, out: Pose): void {
  out.rotations.set(rest.rotations);
  out.translations.set(rest.translations);
  out.root.set(root);
  fromRoot(out, skeleton.rootBone);
}

/** Writes the pose before the first segment: its first one, or a part of the way to it from the rest pose. */
export function leadInPose(plan: CharacterPlan, frame: number, out: Pose): void {
  const first = plan.segments[0]!;
  firstPose(first, out);
  if (plan.leadIn === 0) return;
  const w = curveWeight('smooth', Math.max(0, 1 - (first.start - frame) / plan.leadIn));
  restOn(out, plan, plan.scratch);
  blendPoses(plan.skeleton.rootBone, 1 - w, out, plan.scratch);
}

/** Writes the pose in the gap between two segments. */
export function gapPose(
  plan: CharacterPlan,
  before: SegmentPlan,
  next: SegmentPlan,
  frame: number,
  out: Pose,
): void {
  const { rootBone } = plan.skeleton;
  const last = before.end - 1;
  lastPose(before, out);
  if (next.settings.seam.gap === 'hold') return;
  const length = next.start - last;
  const passed = frame - last;
  if (next.settings.seam.gap === 'ease') {
    firstPose(next, plan.scratch);
    blendPoses(rootBone, curveWeight('smooth', passed / length), out, plan.scratch);
    return;
  }
  const ramp = Math.min(length / 3, TO_REST * framesPerSecond(plan.rate));
  if (passed < ramp) {
    restOn(out, plan, plan.scratch);
    blendPoses(rootBone, curveWeight('smooth', passed / ramp), out, plan.scratch);
    return;
  }
  const rest = plan.layerScratch;
  restOn(out, plan, rest);
  firstPose(next, plan.scratch);
  out.root.set(plan.scratch.root);
  const left = length - passed;
  if (left < ramp) {
    restOn(plan.scratch, plan, out);
    blendPoses(rootBone, 1 - curveWeight('smooth', left / ramp), out, plan.scratch);
  } else {
    // Where the two sides stand apart, as with free fits, the resting body is moved across between them.
    restOn(plan.scratch, plan, out);
    blendPoses(rootBone, curveWeight('smooth', (left - ramp) / (length - 2 * ramp)), out, rest);
  }
}

function firstPose(segment: SegmentPlan, out: Pose): void {
  segmentPose(segment, segment.start, false, out);
  if (segment.settle) settlePose(segment.settle, 0, segment.clip, out);
}

function lastPose(segment: SegmentPlan, out: Pose): void {
  segmentPose(segment, segment.end - 1, false, out);
  if (segment.settle) settlePose(segment.settle, segment.end - 1 - segment.start, segment.clip, out);
}
