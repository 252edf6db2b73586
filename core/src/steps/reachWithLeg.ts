import type { Pose, ScenePose, WorldPose } from '../clip/pose';
import { quatRotate } from '../math/quaternion';
import type { Leg } from '../skeleton/legs';
import { reach } from '../skeleton/reach';
import type { Skeleton } from '../skeleton/skeleton';

const _bendAxis = new Float64Array(3);
const _limb = { upper: 0, lower: 0, end: 0 };

/**
 * Brings an ankle to a target, metres, 3 numbers from `to`; the knee stays in its plane, the foot keeps its rotation in the
 * scene. A straight knee bends about the body's own right.
 *
 * @param world transforms of the pose, of the leg and what is above it; written
 * @returns how far the ankle stays from its target, metres
 */
export function reachWithLeg(
  skeleton: Skeleton,
  { upper, lower, ankle }: Leg,
  target: Float64Array,
  to: number,
  world: WorldPose,
  pose: Pose | ScenePose,
): number {
  _bendAxis[0] = -1;
  _bendAxis[1] = 0;
  _bendAxis[2] = 0;
  quatRotate(world.rotations, skeleton.rootBone * 4, _bendAxis, 0, _bendAxis, 0);
  _limb.upper = upper;
  _limb.lower = lower;
  _limb.end = ankle;
  const { rotations, positions } = world;
  return reach(skeleton.parents, _limb, target, to, _bendAxis, pose.rotations, rotations, positions);
}
