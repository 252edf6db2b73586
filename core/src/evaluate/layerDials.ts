import type { Dial } from '../clip/dials';
import { DIALS } from '../clip/dials';
import type { ScenePose } from '../clip/pose';
import { valueOn } from '../layers/valueCurve';
import { curveWeight } from '../math/curve';
import { quatSlerp } from '../math/quaternion';
import type { Memory } from '../memory/memory';
import type { CharacterPlan, DialsPlan, SegmentPlan } from '../plan/plan';
import { segmentAt } from '../plan/segmentAt';
import { exactSampleAt } from '../plan/segmentPose';
import type { BodyDials } from '../steps/dialPose';
import { dialPose } from '../steps/dialPose';
import { meanPose, sideOffsets, spreadPose } from '../steps/dialClip';

const _body: BodyDials = { clearance: 0, lean: 0, stance: 0, crouch: 0 };

/**
 * Sets the dials that a layer has keys of, by the weight of the layer: arms and trunk depart from the mean pose of the clip that plays,
 * or from that between two that crossfade; the rest as `dialPose` does. Nothing is touched where all are at their plain values.
 */
export function layerDials(
  plan: CharacterPlan,
  { curves, work, mean }: DialsPlan,
  frame: number,
  w: number,
  pose: ScenePose,
): void {
  const at = (dial: Dial): number => {
    const { none, least, most } = DIALS[dial];
    const curve = curves[dial];
    if (!curve) return none;
    return none + w * (Math.min(most, Math.max(least, valueOn(curve, frame, none))) - none);
  };
  const [arms, trunk] = [at('arms'), at('trunk')];
  if (arms !== 1 || trunk !== 1) {
    if (meanAt(plan, frame, mean)) spreadPose(plan.skeleton, mean, arms, trunk, pose.rotations);
  }
  _body.clearance = at('clearance');
  _body.lean = at('lean');
  _body.stance = at('stance');
  _body.crouch = at('crouch');
  if (_body.clearance === 0 && _body.lean === 0 && _body.stance === 0 && _body.crouch === 0) return;
  const heading = pose.root[2]!;
  const side = (leg: number): number => heading + (_body.stance === 0 ? 0 : sideOffset(plan, leg, frame));
  dialPose(plan.skeleton, _body, heading, side, pose, work);
}

/** By how much the heading to whose side a leg is set differs from that of the root: as in the clip that plays, or the two that crossfade. */
function sideOffset({ segments, memory }: CharacterPlan, leg: number, frame: number): number {
  const i = segmentAt(segments, frame);
  const [before, segment] = [segments[i - 1], segments[i]];
  if (!segment) return 0;
  const own = offsetIn(memory, segment, leg, frame);
  if (!before || frame >= segment.start + segment.overlap) return own;
  const w = curveWeight(segment.curve, (frame - segment.start) / segment.overlap);
  return (1 - w) * offsetIn(memory, before, leg, frame) + w * own;
}

function offsetIn(memory: Memory, segment: SegmentPlan, leg: number, frame: number): number {
  const sample = exactSampleAt(segment, frame);
  const offsets = memory.recall(sideOffsets, segment.clip)[leg];
  if (Number.isNaN(sample) || !offsets) return 0;
  const first = Math.floor(sample);
  const second = Math.min(first + 1, offsets.length - 1);
  return offsets[first]! + (sample - first) * (offsets[second]! - offsets[first]!);
}

/** Writes the mean pose of the clip that plays on the body lane, between two that crossfade or follow each other; false without any. */
function meanAt({ segments, memory }: CharacterPlan, frame: number, out: Float64Array): boolean {
  const i = Math.max(0, segmentAt(segments, frame));
  const segment = segments[i];
  if (!segment) return false;
  const [before, next] = [segments[i - 1], segments[i + 1]];
  const last = segment.end - 1;
  if (before && frame < segment.start + segment.overlap)
    slerpPoses(memory, before, segment, (frame - segment.start) / segment.overlap, out);
  else if (next && frame > last && next.start > last)
    slerpPoses(memory, segment, next, (frame - last) / (next.start - last), out);
  else out.set(memory.recall(meanPose, segment.clip));
  return true;
}

function slerpPoses(memory: Memory, a: SegmentPlan, b: SegmentPlan, t: number, out: Float64Array): void {
  const [from, to] = [memory.recall(meanPose, a.clip), memory.recall(meanPose, b.clip)];
  for (let o = 0; o < out.length; o += 4) quatSlerp(from, o, to, o, t, out, o);
}
