import { carrierToLocal } from '../skeleton/carrier';
import type { Pose } from '../clip/pose';
import { curveWeight } from '../math/curve';
import { shortestTurn } from '../math/floorMove';
import { quatTurn } from '../math/quaternion';
import { slerpRotations } from '../math/rotations';
import type { CharacterPlan, SegmentPlan } from './plan';
import { segmentPose } from './segmentPose';
import { settlePose } from './settlePose';

/**
 * Writes a character's pose at a frame (real, scene frames): local transforms and the root on the floor. Before its
 * first segment it holds the first pose, in gaps and after the last segment the last one. Allocates nothing; the
 * same plan and frame give the same pose to the bit.
 */
export function evaluate(plan: CharacterPlan, frame: number, out: Pose): Pose {
  const { segments } = plan;
  const i = segmentAt(segments, frame);
  if (i < 0) {
    const first = segments[0];
    if (first) segmentPose(first, first.start, false, out);
  } else {
    const segment = segments[i]!;
    const next = segments[i + 1];
    // Where nothing follows at once, the last whole frame is held.
    const last = next && next.start <= segment.end ? frame : Math.min(frame, segment.end - 1);
    const before = segments[i - 1];
    if (before && frame < segment.start + segment.overlap) {
      placedPose(before, frame, out);
      placedPose(segment, last, plan.scratch);
      const u = (frame - segment.start) / segment.overlap;
      crossfade(plan, curveWeight(segment.curve, u), out);
    } else placedPose(segment, last, out);
  }
  if (segments.length > 0) carrierToLocal(plan.skeleton, out.rotations, out.translations);
  return out;
}

/** A segment's pose with what is left of the difference that it settles. */
function placedPose(segment: SegmentPlan, frame: number, out: Pose): void {
  segmentPose(segment, frame, false, out);
  if (segment.settle) settlePose(segment.settle, frame - segment.start, segment.clip, out);
}

/** Index of the last segment that has begun at a frame, -1 before the first. */
export function segmentAt(segments: readonly SegmentPlan[], frame: number): number {
  let low = 0;
  let high = segments.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (segments[middle]!.start <= frame) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/**
 * Blends the scratch pose into `out` with weight w: roots on the floor the shorter way round, the carrier relative
 * to its root, rotations by slerp. Both carriers are in scene space.
 */
function crossfade(plan: CharacterPlan, w: number, out: Pose): void {
  const other = plan.scratch;
  const carrier = plan.skeleton.carrier;
  if (w <= 0) return;
  toRoot(out, carrier);
  toRoot(other, carrier);
  const { rotations, translations, root } = out;
  slerpRotations(rotations, other.rotations, rotations.length / 4, w);
  for (let p = 0; p < translations.length; p++)
    translations[p]! += w * (other.translations[p]! - translations[p]!);
  root[0]! += w * (other.root[0]! - root[0]!);
  root[1]! += w * (other.root[1]! - root[1]!);
  root[2]! += w * shortestTurn(other.root[2]! - root[2]!);
  fromRoot(out, carrier);
}

/** Makes the carrier relative to the pose's root. */
function toRoot(pose: Pose, carrier: number): void {
  const { root, translations } = pose;
  const s = Math.sin(root[2]!);
  const c = Math.cos(root[2]!);
  const x = translations[carrier * 3]! - root[0]!;
  const z = translations[carrier * 3 + 2]! - root[1]!;
  translations[carrier * 3] = x * c - z * s;
  translations[carrier * 3 + 2] = x * s + z * c;
  quatTurn(pose.rotations, carrier * 4, -root[2]!);
}

/** Undoes `toRoot`: world carrier = root * local carrier. */
function fromRoot(pose: Pose, carrier: number): void {
  const { root, translations } = pose;
  const s = Math.sin(root[2]!);
  const c = Math.cos(root[2]!);
  const x = translations[carrier * 3]!;
  const z = translations[carrier * 3 + 2]!;
  translations[carrier * 3] = root[0]! + x * c + z * s;
  translations[carrier * 3 + 2] = root[1]! - x * s + z * c;
  quatTurn(pose.rotations, carrier * 4, root[2]!);
}
