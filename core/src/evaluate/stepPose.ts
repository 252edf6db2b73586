import type { ScenePose } from '../clip/pose';
import { bump, minimumJerk } from '../math/curve';
import { moveAt, multiplyMoves } from '../math/floorMove';
import { quatSlerp } from '../math/quaternion';
import { valueAt } from '../math/valueAt';
import type { BlendBranch } from '../plan/blendPoses';
import { blendBodies, fromRootSpace, toRootSpace } from '../plan/blendPoses';
import type { MadeStep } from '../plan/madeStep';
import { ANKLE_SIZE } from '../plan/madeStep';
import type { SegmentPlan } from '../plan/plan';
import type { Skeleton } from '../skeleton/skeleton';
import { legsInScene } from '../steps/legsInScene';
import { reachWithLeg } from '../steps/reachWithLeg';

/**
 * Writes the pose of a made step at a frame of its overlap: both sides blended relative to the root, which goes its own way,
 * and the feet put where their steps have them. Takes over the memory of the outgoing pose; the incoming one is spoilt.
 */
export function stepPose(
  step: MadeStep,
  branch: BlendBranch | null,
  before: SegmentPlan,
  segment: SegmentPlan,
  frame: number,
  w: number,
  outgoing: ScenePose,
  incoming: ScenePose,
): ScenePose {
  const { skeleton } = segment.clip;
  const { scratch } = step;
  const x = frame - segment.start;
  readAnkles(skeleton, step, outgoing, scratch.from);
  readAnkles(skeleton, step, incoming, scratch.to);
  const pose = bodyOfStep(step, branch, before, frame, w, x, outgoing, incoming, skeleton.rootBone);
  pose.translations[skeleton.rootBone * 3 + 1]! -= valueAt(step.lowering, x);
  legsInScene(skeleton, pose, scratch.chain, scratch.world);
  for (let i = 0; i < step.legs.length; i++) placeFoot(skeleton, step, i, x, pose);
  return pose;
}

/** Writes the blended body on the root's own way, before the feet are placed. */
function bodyOfStep(
  step: MadeStep,
  branch: BlendBranch | null,
  before: SegmentPlan,
  frame: number,
  w: number,
  x: number,
  outgoing: ScenePose,
  incoming: ScenePose,
  rootBone: number,
): ScenePose {
  const out = toRootSpace(outgoing, rootBone);
  blendBodies(branch, frame, w, out, toRootSpace(incoming, rootBone));
  const { root } = step.scratch;
  moveAt(step.path, x, root);
  if (step.isAlong) multiplyMoves(before.move, 0, root, 0, root, 0);
  for (let k = 0; k < 3; k++) out.root[k] = root[k]!;
  return fromRootSpace(out, rootBone);
}

/** Writes where the ankles of a pose are: legs x ANKLE_SIZE. */
function readAnkles(
  skeleton: Skeleton,
  { legs, scratch }: Pick<MadeStep, 'legs' | 'scratch'>,
  pose: ScenePose,
  out: Float64Array,
): void {
  legsInScene(skeleton, pose, scratch.chain, scratch.world);
  const { positions, rotations } = scratch.world;
  for (let i = 0; i < legs.length; i++) {
    const { ankle } = legs[i]!;
    for (let k = 0; k < 3; k++) out[i * ANKLE_SIZE + k] = positions[ankle * 3 + k]!;
    for (let k = 0; k < 4; k++) out[i * ANKLE_SIZE + 3 + k] = rotations[ankle * 4 + k]!;
  }
}

function placeFoot(skeleton: Skeleton, step: MadeStep, i: number, x: number, pose: ScenePose): void {
  const { from, to, world, target, rotation } = step.scratch;
  const leg = step.legs[i]!;
  const { leaves, lands, lift } = step.feet[i]!;
  const u = (x - leaves) / (lands - leaves);
  const w = minimumJerk(u);
  const o = i * ANKLE_SIZE;
  for (let k = 0; k < 3; k++) target[k] = from[o + k]! + w * (to[o + k]! - from[o + k]!);
  target[1]! += lift * bump(u);
  quatSlerp(from, o + 3, to, o + 3, w, rotation, 0);
  for (let k = 0; k < 4; k++) world.rotations[leg.ankle * 4 + k] = rotation[k]!;
  reachWithLeg(skeleton, leg, target, 0, world, pose);
}
