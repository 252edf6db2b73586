import type { Pose, PoseBuffer, ScenePose } from '../clip/pose';
import { poseToWorld, toParentSpace, toSceneSpace } from '../clip/pose';
import { placeTravelBone } from '../clip/travelBone';
import { shortestTurn } from '../math/floorMove';
import {
  quatConjugate,
  quatMultiply,
  quatNormalize,
  quatRotate,
  quatSlerp,
  quatTwistY,
} from '../math/quaternion';
import { invertRigid, moveByRigid, multiplyRigid, readRigid, stillRigid } from '../math/rigid';
import type { CharacterPlan } from '../plan/plan';
import type { ReachPlan, StagingPlan } from '../plan/tethers';
import { straightBend } from '../skeleton/limbs';
import { reach } from '../skeleton/reach';
import { heldMove } from './heldMove';
import type { ReadHeld } from './holderPose';
import { holderJoint } from './holderPose';
import { heldWeight, takenWeight } from './tetherWeight';

/** Takes joints that somebody moves alone back to where they are at rest: what evaluates the body leaves them where they are. */
export function resetJoints(
  { skeleton }: CharacterPlan,
  { holds, joints }: StagingPlan,
  out: PoseBuffer,
): void {
  for (const last of joints) {
    const at = holds[last]!.held * 3;
    for (let k = 0; k < 3; k++) out.translations[at + k] = skeleton.restTranslations[at + k]!;
  }
}

/**
 * Puts a pose to where others hold it, in its own memory.
 *
 * @param read reads holders
 * @param readOwn reads the body itself as it would be without tethers
 */
export function holdPose(
  plan: CharacterPlan,
  staging: StagingPlan,
  frame: number,
  read: ReadHeld,
  readOwn: ReadHeld,
  pose: Pose,
): Pose {
  if (staging.holds.length === 0) return pose;
  const { skeleton } = plan;
  poseToWorld(skeleton, pose, staging.ownWorld);
  const body = { plan, staging, read, readOwn, frame };
  if (staging.whole >= 0) {
    const move = heldMove(body, staging.whole, frame, staging.move);
    const inScene = toSceneSpace(skeleton, pose);
    moveWhole(plan, move, inScene);
    toParentSpace(skeleton, inScene);
  }
  for (const last of staging.joints) {
    const joint = staging.holds[last]!.held;
    moveJoint(plan, joint, heldMove(body, last, frame, staging.move), staging, pose);
  }
  return pose;
}

const _point = new Float64Array(3);

/** Moves a body with its root on the floor. */
function moveWhole(plan: CharacterPlan, move: Float64Array, pose: ScenePose): void {
  const { skeleton, travelBone } = plan;
  const { rotations, translations, root } = pose;
  const { rootBone } = skeleton;
  moveByRigid(move, translations, rootBone * 3, translations, rootBone * 3);
  quatMultiply(move, 3, rotations, rootBone * 4, rotations, rootBone * 4);
  quatNormalize(rotations, rootBone * 4);
  _point[0] = root[0]!;
  _point[1] = 0;
  _point[2] = root[1]!;
  moveByRigid(move, _point, 0, _point, 0);
  root[0] = _point[0];
  root[1] = _point[2];
  root[2]! += shortestTurn(quatTwistY(move, 3));
  if (travelBone) placeTravelBone(skeleton, travelBone.joint, travelBone.turned, pose);
}

const _above = stillRigid();
const _joint = stillRigid();

/** Moves one joint with what hangs on it. */
function moveJoint(
  { skeleton }: CharacterPlan,
  joint: number,
  move: Float64Array,
  staging: StagingPlan,
  pose: Pose,
): void {
  const { positions, rotations } = poseToWorld(skeleton, pose, staging.world);
  readRigid(positions, rotations, joint, _joint);
  multiplyRigid(move, _joint, _joint);
  const parent = skeleton.parents[joint]!;
  if (parent >= 0) {
    invertRigid(readRigid(positions, rotations, parent, _above), _above);
    multiplyRigid(_above, _joint, _joint);
  }
  for (let k = 0; k < 3; k++) pose.translations[joint * 3 + k] = _joint[k]!;
  for (let k = 0; k < 4; k++) pose.rotations[joint * 4 + k] = _joint[3 + k]!;
  quatNormalize(pose.rotations, joint * 4);
}

const _holder = stillRigid();
const _target = new Float64Array(3);
const _turn = new Float64Array(4);
const _inverse = new Float64Array(4);

/**
 * Brings hands and feet to what they reach for, in the pose's own memory: the arm by analytic two-bone inverse kinematics, the hand turned with
 * the joint. What is further away than the limb is long stays out of reach.
 *
 * @param read reads what is reached for, and the body itself, before anybody reaches
 */
export function reachPose(
  plan: CharacterPlan,
  staging: StagingPlan,
  frame: number,
  read: ReadHeld,
  pose: Pose,
): Pose {
  for (let i = 0; i < staging.reaches.length; i++) {
    const tether = staging.reaches[i]!;
    if (frame < tether.start || frame >= tether.end) continue;
    const w = takenWeight(tether, frame) * heldWeight(tether, frame);
    if (w <= 0) continue;
    const offset = (staging.reached[i] ??= offsetOf(plan, staging, tether, read));
    holderJoint(tether.holder, tether.joint, frame, read, _holder);
    reachFor(plan, staging, tether, offset, w, pose);
  }
  return pose;
}

function reachFor(
  { skeleton }: CharacterPlan,
  { world }: StagingPlan,
  { limb }: ReachPlan,
  offset: Float64Array,
  w: number,
  pose: Pose,
): void {
  const { positions, rotations } = poseToWorld(skeleton, pose, world);
  const [p, q] = [limb.end * 3, limb.end * 4];
  quatRotate(_holder, 3, offset, 0, _target, 0);
  for (let k = 0; k < 3; k++)
    _target[k] = positions[p + k]! + w * (_target[k]! + _holder[k]! - positions[p + k]!);
  const axis = straightBend(skeleton, limb, positions, pose.root[2]!);
  reach(skeleton.parents, limb, _target, 0, axis, pose.rotations, rotations, positions);
  quatMultiply(_holder, 3, offset, 3, _turn, 0);
  quatSlerp(rotations, q, _turn, 0, w, rotations, q);
  quatConjugate(rotations, skeleton.parents[limb.end]! * 4, _inverse, 0);
  quatMultiply(_inverse, 0, rotations, q, pose.rotations, q);
}

/** Where a hand is in the axes of what it reaches for: as its grip says, and else as it is when it begins to. */
function offsetOf(
  plan: CharacterPlan,
  staging: StagingPlan,
  { holder, joint, start, limb, gripPlace, gripTurn }: ReachPlan,
  read: ReadHeld,
): Float64Array {
  const pose = read(plan, start, staging.buffer);
  const { positions, rotations } = poseToWorld(plan.skeleton, pose, staging.world);
  const hand = readRigid(positions, rotations, limb.end, stillRigid());
  const out = holderJoint(holder, joint, start, read, stillRigid());
  multiplyRigid(invertRigid(out, out), hand, out);
  if (gripPlace) out.set(gripPlace);
  if (gripTurn) out.set(gripTurn, 3);
  return out;
}
