import type { Spline } from '../math/spline';
import { alignSteps } from '../seam/inStep';
import type { StepEvent } from '../seam/inStep';
import type { SegmentPlan } from '../plan/plan';
import { isPlanted } from '../plan/planted';
import { hasSamples } from '../plan/segmentPose';

/** Shares of the overlap beyond its ends in which the partner of a step is looked for. */
const AROUND = 0.75;

/** The strikes and lifts of a segment around an overlap, in frames from its start. */
function eventsAround(segment: SegmentPlan, start: number, frames: number): StepEvent[] {
  const reach = Math.ceil(frames * AROUND);
  const events: StepEvent[] = [];
  for (const { joint, tip } of segment.steps().joints) {
    // The ankle's strike and the toes' lift are those of the foot; where there is one joint it has both.
    const alone = segment.steps().joints.filter((j) => j.leg === legOf(segment, joint)).length === 1;
    for (let f = -reach; f <= frames + reach; f++) {
      if (!hasSamples(segment, start + f) || !hasSamples(segment, start + f - 1)) continue;
      const current = isPlanted(segment, joint, start + f);
      if (current === isPlanted(segment, joint, start + f - 1)) continue;
      const kind = current ? 'strike' : 'lift';
      if (alone || tip === (kind === 'lift')) events.push({ joint, kind, frame: f - 0.5 });
    }
  }
  return events;
}

const legOf = (segment: SegmentPlan, joint: number): number | undefined =>
  segment.steps().joints.find((j) => j.joint === joint)?.leg;

/** A spline moved along both axes. */
const shifted = (spline: Spline, by: number): Spline => ({
  x: spline.x.map((v) => v + by),
  y: spline.y.map((v) => v + by),
  slope: spline.slope,
});

/** Both sides of a crossfade brought into step, or why they are not. */
export function stepWarp(
  before: SegmentPlan,
  segment: SegmentPlan,
): { warpOut: Spline | null; warpIn: Spline | null; remark: string | null } {
  const warp = alignSteps(
    eventsAround(before, segment.start, segment.overlap),
    eventsAround(segment, segment.start, segment.overlap),
    segment.overlap,
  );
  if (warp === null || typeof warp === 'string') return { warpOut: null, warpIn: null, remark: warp };
  return {
    warpOut: shifted(warp.outgoing, segment.start - before.start),
    warpIn: warp.incoming,
    remark: null,
  };
}
