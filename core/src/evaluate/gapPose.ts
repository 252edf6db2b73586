import { rootTrack } from '../clip/root';
import type { Pose } from '../clip/pose';
import { makePose } from '../clip/pose';
import { curveWeight } from '../math/curve';
import { rootBoneToScene } from '../skeleton/rootBone';
import { quatRotate } from '../math/quaternion';
import type { Skeleton } from '../skeleton/skeleton';
import { restPose } from '../skeleton/skeleton';
import { blendPoses, fromRoot, toRoot } from '../plan/blendPoses';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { segmentPose } from '../plan/segmentPose';
import { settlePose } from '../plan/settlePose';
import { framesPerSecond } from '../math/rate';

/** Longest time in which a body comes to its rest pose in a gap, and leaves it, seconds; never over a third of the gap. */
const TO_REST = 0.5;

const rests = new WeakMap<Skeleton, Pose>();

/** The rest pose with its root bone relative to the root that it stands on. */
export function standingRestPose(skeleton: Skeleton): Pose {
  let pose = rests.get(skeleton);
  if (pose) return pose;
  pose = makePose(skeleton);
  rootBoneToScene(skeleton, pose.rotations, pose.translations);
  const { rootBone } = skeleton;
  // Files may leave the root bone's rest place at zero, in the floor.
  pose.translations[rootBone * 3 + 1]! += Math.max(0, -lowestRest(skeleton));
  const root = rootTrack({
    id: 'rest',
    name: 'rest',
    skeleton,
    rate: 30,
    frames: 1,
    rotations: Float32Array.from(pose.rotations),
    translated: Int32Array.of(rootBone),
    translations: Float32Array.from(pose.translations.subarray(rootBone * 3, rootBone * 3 + 3)),
  });
  pose.root.set(root.subarray(0, 3));
  toRoot(pose, rootBone);
  rests.set(skeleton, pose);
  return pose;
}

/** Height of the lowest joint or end of a chain in the rest pose, metres. */
function lowestRest(skeleton: Skeleton): number {
  const { rotations, positions } = restPose(skeleton);
  const end = new Float64Array(3);
  let lowest = Infinity;
  skeleton.names.forEach((_, j) => {
    end.set(skeleton.ends[j] ?? [0, 0, 0]);
    quatRotate(rotations, j * 4, end, 0, end, 0);
    lowest = Math.min(lowest, positions[j * 3 + 1]!, positions[j * 3 + 1]! + end[1]!);
  });
  return lowest;
}

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
  if (next.gap === 'hold') return;
  const length = next.start - last;
  const passed = frame - last;
  if (next.gap === 'ease') {
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
