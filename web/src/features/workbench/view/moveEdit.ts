import type { CharacterPlan, Edit, KeptLimbs, LayerLane } from '@warper/core';
import {
  bentPose,
  bodyPartAt,
  framesPerSecond,
  hipsEdit,
  limbBendingAt,
  limbEndingAt,
  poseEdit,
  reachedPose,
  swivelledPose,
} from '@warper/core';
import type { Skeleton } from '@warper/core';
import { withFirstSpan } from '../card/firstKey';

/** What moving a joint by its handle is called; null for one that is only turned. */
export function moveWord(skeleton: Skeleton, joint: number): 'Reach' | 'Move' | 'Swivel' | null {
  if (joint < 0) return null;
  if (limbEndingAt(skeleton, joint)) return 'Reach';
  if (bodyPartAt(skeleton, joint)) return 'Move';
  return limbBendingAt(skeleton, joint) ? 'Swivel' : null;
}

/**
 * The edit that brings a joint to a place: a hand or foot with its limb, an elbow or knee about its limb, the trunk or head by bending,
 * the hips with the whole body.
 */
export function moveEdit(
  plan: CharacterPlan,
  layer: LayerLane,
  frame: number,
  joint: number,
  target: Float64Array,
  kept: KeptLimbs,
): Edit | null {
  const edit = placing(plan, layer, frame, joint, target, kept);
  return edit && withFirstSpan(layer, frame, framesPerSecond(plan.rate), edit);
}

function placing(
  plan: CharacterPlan,
  layer: LayerLane,
  frame: number,
  joint: number,
  target: Float64Array,
  kept: KeptLimbs,
): Edit | null {
  const { skeleton } = plan;
  const end = limbEndingAt(skeleton, joint);
  if (end) return poseEdit(plan, layer, frame, reachedPose(plan, frame, end, target));
  const part = bodyPartAt(skeleton, joint);
  if (part === 'hips') return hipsEdit(plan, layer, frame, target, kept);
  if (part) return poseEdit(plan, layer, frame, bentPose(plan, frame, joint, target, kept));
  const bend = limbBendingAt(skeleton, joint);
  return bend && poseEdit(plan, layer, frame, swivelledPose(plan, frame, bend, target));
}
