import type { ScenePose, WorldPose } from '../clip/pose';
import { sceneToWorld } from '../clip/pose';
import { quatConjugate, quatMultiply, quatSlerp } from '../math/quaternion';
import type { ContactPlan } from '../plan/plan';
import { straightBend } from '../skeleton/limbs';
import { reach } from '../skeleton/reach';
import type { Skeleton } from '../skeleton/skeleton';

const _target = new Float64Array(3);
const _inverse = new Float64Array(4);

/** Where a hand is, x, y, z in metres, and how it is turned in the scene, xyzw. */
export function handIn({ positions, rotations }: WorldPose, hand: number): Float64Array {
  const out = new Float64Array(7);
  out.set(positions.subarray(hand * 3, hand * 3 + 3));
  out.set(rotations.subarray(hand * 4, hand * 4 + 4), 3);
  return out;
}

/** Brings a hand to where it is held, and turns it as it was, by a weight: the arm reaches by two-bone inverse kinematics. */
export function holdHand(
  skeleton: Skeleton,
  { limb, world }: ContactPlan,
  held: Float64Array,
  w: number,
  pose: ScenePose,
): void {
  sceneToWorld(skeleton, pose, world);
  const { positions, rotations } = world;
  const [p, q] = [limb.end * 3, limb.end * 4];
  for (let k = 0; k < 3; k++) _target[k] = positions[p + k]! + w * (held[k]! - positions[p + k]!);
  const axis = straightBend(skeleton, limb, positions, pose.root[2]!);
  reach(skeleton.parents, limb, _target, 0, axis, pose.rotations, rotations, positions);
  quatSlerp(rotations, q, held, 3, w, rotations, q);
  quatConjugate(rotations, skeleton.parents[limb.end]! * 4, _inverse, 0);
  quatMultiply(_inverse, 0, rotations, q, pose.rotations, q);
}
