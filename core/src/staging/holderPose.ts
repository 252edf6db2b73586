import type { Pose, PoseBuffer } from '../clip/pose';
import { poseToWorld } from '../clip/pose';
import { readRigid } from '../math/rigid';
import type { CharacterPlan } from '../plan/plan';
import type { Holder } from '../plan/tethers';

/** Writes the pose of a character at a frame, where it is held, but with no hand reaching for anything. */
export type ReadHeld = (plan: CharacterPlan, frame: number, out: PoseBuffer) => Pose;

/** Writes where a holder's joint is at a frame: x, y, z and xyzw. */
export function holderJoint(
  holder: Holder,
  joint: number,
  frame: number,
  read: ReadHeld,
  out: Float64Array,
): Float64Array {
  if (holder.frame !== frame) {
    // Marked only when it is done: what fails half way is not taken for a pose.
    holder.frame = NaN;
    const pose = read(holder.plan, frame, holder.buffer);
    poseToWorld(holder.plan.skeleton, pose, holder.world);
    holder.root.set(pose.root);
    holder.frame = frame;
  }
  return readRigid(holder.world.positions, holder.world.rotations, joint, out);
}
