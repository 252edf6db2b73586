import type { Pose, PoseBuffer } from '../clip/pose';
import { evaluateUnlocked } from '../evaluate/evaluateUnlocked';
import { lockFeet } from './footLock';
import type { CharacterPlan } from '../plan/plan';

/**
 * Writes a character's pose at a frame (real, scene frames): local transforms and the root on the floor. Before its
 * first segment it holds the first pose, in gaps and after the last segment the last one. Layers lie over it, then the
 * planted feet are held where they are to be. Makes no object or array but what a segment needs once; the same plan and frame
 * give the same pose to the bit.
 */
export function evaluate(plan: CharacterPlan, frame: number, out: PoseBuffer): Pose {
  const pose = evaluateUnlocked(plan, frame, out);
  lockFeet(plan, frame, pose);
  return pose;
}
