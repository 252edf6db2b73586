import type { FitReader } from './fitReader';
import type { SegmentPlan } from '../plan/plan';
import { isPlanted } from '../plan/planted';

/** Where a foot stands on both sides of a seam: x and z, means over the frames in which it is planted on both. */
export interface SharedStep {
  readonly outgoing: readonly [number, number];
  readonly incoming: readonly [number, number];
}

/**
 * The foot that is planted on both sides for the most of the compared frames; toes before the ankle where they are
 * planted as long. Null where no foot is, or where a side does not travel, so that its feet do not stand.
 */
export function sharedStep(reader: FitReader): SharedStep | null {
  const { outgoing, incoming, frames } = reader;
  if (outgoing.travel === 'in place' || incoming.travel === 'in place') return null;
  let best: { joint: number; frames: number[] } | null = null;
  for (const { joint, tip } of outgoing.steps().joints) {
    const shared = frames.filter((f) => isPlanted(outgoing, joint, f) && isPlanted(incoming, joint, f));
    const longer = shared.length - (best?.frames.length ?? 0);
    if (longer > 0 || (longer === 0 && shared.length > 0 && tip)) best = { joint, frames: shared };
  }
  if (!best) return null;
  const mean = (segment: SegmentPlan): [number, number] => {
    const sum = [0, 0];
    for (const frame of best.frames) {
      const [x, z] = reader.joint(segment, best.joint, frame);
      sum[0]! += x;
      sum[1]! += z;
    }
    return [sum[0]! / best.frames.length, sum[1]! / best.frames.length];
  };
  return { outgoing: mean(outgoing), incoming: mean(incoming) };
}
