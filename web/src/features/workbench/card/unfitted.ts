import type { CharacterPlan, SeamMeasures } from '@warper/core';
import { makePoseBuffer, measureSeam, defined } from '@warper/core';
import { STILL, segmentPose } from '@warper/core/kernels';

/** Measures of a seam as if the incoming clip stood where it was authored, everything before it being as it is. */
export function unfitted(plan: CharacterPlan, index: number, framesPerSecond: number): SeamMeasures {
  const incoming = defined(plan.segments[index]);
  const bare = {
    ...incoming,
    move: Float64Array.of(STILL.x, STILL.z, STILL.turn),
    held: new Float64Array(3),
    settle: null,
    route: null,
    lift: 0,
  };
  if (bare.travel === 'in place') {
    const pose = makePoseBuffer(plan.skeleton);
    segmentPose({ ...bare, travel: 'recorded' }, bare.start, false, pose);
    bare.held.set(pose.root);
  }
  const segments = plan.segments.slice(0, index).concat(bare);
  return measureSeam({ ...plan, segments, end: bare.end }, index - 1, framesPerSecond);
}
