import type { SegmentPlan } from './plan';
import { sampleAt } from './segmentPose';

/** Whether a joint stands at a frame by the steps of the segment's clip; never beyond the clip's own samples. */
export function isPlanted(segment: SegmentPlan, joint: number, frame: number): boolean {
  const sample = sampleAt(segment, frame);
  const steps = segment.steps().joints.find((j) => j.joint === joint);
  return sample >= 0 && (steps?.spans.some((s) => sample >= s.start && sample < s.end) ?? false);
}
