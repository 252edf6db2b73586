import type { Pose, WorldPose } from '../clip/pose';
import { makePoseBuffer, makeWorldPose, poseToWorld } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import type { CharacterPlan } from '../plan/plan';

/** A character at one frame. */
export interface Posed {
  readonly pose: Pose;
  readonly world: WorldPose;
  /** Where its root faces, radians. */
  readonly heading: number;
}

/** A character as it is performed at a frame, in memory of its own. */
export function posedAt(plan: CharacterPlan, frame: number): Posed {
  const { skeleton } = plan;
  const pose = evaluate(plan, frame, makePoseBuffer(skeleton));
  return { pose, world: poseToWorld(skeleton, pose, makeWorldPose(skeleton)), heading: pose.root[2]! };
}
