import { curveWeight, weightThrough } from '../math/curve';
import type { ReachPlan } from '../plan/tethers';

/** What the weight of a tether depends on. */
type Weighted = Pick<ReachPlan, 'start' | 'end' | 'fadeIn' | 'fadeOut' | 'weightFrames' | 'weights'>;

/** The share with which a tether has taken hold at a frame within its span: its own curve, coming in from its first frame. */
export function takenWeight(tether: Weighted, frame: number): number {
  const { start, fadeIn } = tether;
  const into = fadeIn > 0 ? curveWeight('smooth', (frame - start) / fadeIn) : 1;
  return into * weightThrough(tether.weightFrames, tether.weights, 'linear', frame);
}

/** The share that has not yet been let go at a frame within its span; nothing at its end. */
export const heldWeight = ({ end, fadeOut }: Weighted, frame: number): number =>
  fadeOut > 0 && end < Infinity ? curveWeight('smooth', (end - frame) / fadeOut) : 1;
