import type { Segment, SegmentPlan, SegmentValues } from '@warper/core';
import { HONEST_STRIDES, reachMark } from '@warper/core';
import { Button } from '../../../ui/controls';

interface Props {
  readonly segment: Segment;
  readonly plan: SegmentPlan;
  /** Where the root is at the segment's first frame. */
  readonly start: () => readonly number[];
  readonly change: (values: SegmentValues) => void;
}

/** Hits the last mark of a loop by whole cycles, so that the walk ends there as it began; says when it cannot. */
export function MarkCycles({ segment, plan, start, change }: Props) {
  const mark = segment.marks.at(-1);
  if (!mark || !segment.loop) return null;
  const [x = 0, z = 0] = start();
  const reached = reachMark({
    distance: Math.hypot(mark.x - x, mark.z - z),
    frames: mark.frame,
    cycleDistance: Math.hypot(plan.cycle.x, plan.cycle.z),
    cycleFrames: (plan.period * plan.speed) / plan.time.samplesPerFrame,
  });
  if (reached.cycles === null)
    return (
      <p className="text-note text-watch">
        Whole cycles with strides of {HONEST_STRIDES.least} to {HONEST_STRIDES.most} times the recorded ones
        cannot hit the last mark after {mark.frame} frames
        {reached.frames === null ? '.' : `; after ${reached.frames} they could.`}
      </p>
    );
  const { cycles, stride, pace } = reached;
  return (
    <>
      <div>
        <Button
          onClick={() => change({ repeat: cycles, length: mark.frame, hold: { start: 0, end: 0 } })}
          title="The loop ends at the last mark, in the pose in which it began"
        >
          Hit the mark in {cycles} whole {cycles === 1 ? 'cycle' : 'cycles'}
        </Button>
      </div>
      <p className="text-note text-soft">
        Strides {stride.toFixed(2)} and pace {pace.toFixed(2)} of the recorded ones.
      </p>
    </>
  );
}
