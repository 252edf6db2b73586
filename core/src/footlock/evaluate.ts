import type { Pose, PoseBuffer, ScenePose } from '../clip/pose';
import { toSceneSpace } from '../clip/pose';
import { evaluateUnlocked } from '../evaluate/evaluateUnlocked';
import { followWheels, turnWheels } from '../staging/rollWheels';
import { holdPose, reachPose, resetJoints } from '../staging/stagePose';
import { lockFeet } from './footLock';
import type { CharacterPlan } from '../plan/plan';

/**
 * Writes a character's pose at a frame (real, scene frames): local transforms and the root on the floor. Before its
 * first segment it holds the first pose, in gaps and after the last segment the last one. Layers lie over it, then the
 * planted feet are held where they are to be; then it goes to where others hold it, its wheels roll, and its hands reach for what they are to. Makes no
 * object or array but what a segment needs once, and one small object where it is held; the same plan and frame give the same pose to the bit.
 */
export function evaluate(plan: CharacterPlan, frame: number, out: PoseBuffer): Pose {
  const pose = evaluateHeld(plan, frame, out);
  return plan.staging ? reachPose(plan, plan.staging, frame, evaluateHeld, pose) : pose;
}

/** Writes in the scene where somebody is whom others hold, for those who look at them. */
export const heldInScene = (plan: CharacterPlan, frame: number, out: PoseBuffer): ScenePose =>
  toSceneSpace(plan.skeleton, evaluateHeld(plan, frame, out));

/** Writes a character's pose where others hold it, before its hands reach for anything. */
function evaluateHeld(plan: CharacterPlan, frame: number, out: PoseBuffer): Pose {
  if (plan.wheels.length === 0) return evaluateUnrolled(plan, frame, out);
  followWheels(plan, frame, evaluateUnrolled, out);
  return turnWheels(plan, frame, evaluateUnrolled(plan, frame, out));
}

/** The same before its wheels roll, if it has any. */
function evaluateUnrolled(plan: CharacterPlan, frame: number, out: PoseBuffer): Pose {
  const { staging } = plan;
  if (!staging) return evaluateAlone(plan, frame, out);
  resetJoints(plan, staging, out);
  return holdPose(plan, staging, frame, evaluateHeld, evaluateAlone, evaluateAlone(plan, frame, out));
}

/** Writes a character's pose as if nobody held it. */
function evaluateAlone(plan: CharacterPlan, frame: number, out: PoseBuffer): Pose {
  const pose = evaluateUnlocked(plan, frame, out);
  lockFeet(plan, frame, pose);
  return pose;
}
