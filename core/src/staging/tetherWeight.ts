import { curveWeight } from '../math/curve';
import type { ReachPlan } from '../plan/tethers';

/** What the weight of a tether depends on. */
type Weighted = Pick<ReachPlan, 'start' | 'end' | 'fadeIn' | 'fadeOut' | 'weightFrames' | 'weights'>;

/** The share with which a tether has taken hold at a frame within its span: its own curve, coming in from its first frame. */
export function takenWeight(tether: Weighted, frame: number): number {
  const { start, fadeIn } = tether;
  const into = fadeIn > 0 ? curveWeight('smooth', (frame - start) / fadeIn) : 1;
  return into * ownWeight(tether, frame);
}

/** The share that has not yet been let go at a frame within its span; nothing at its end. */
export const heldWeight = ({ end, fadeOut }: Weighted, frame: number): number =>
  fadeOut > 0 && end < Infinity ? curveWeight('smooth', (end - frame) / fadeOut) : 1;

/** Its own curve: from point to point, held outside, 1 without points. */
function ownWeight({ weightFrames, weights }: Weighted, frame: number): number {
  const last = weightFrames.length - 1;
  if (last < 0) return 1;
  if (frame <= weightFrames[0]!) return weights[0]!;
  if (frame >= weightFrames[last]!) return weights[last]!;
  let i = 0;
  while (weightFrames[i + 1]! <= frame) i++;
  const t = (frame - weightFrames[i]!) / (weightFrames[i + 1]! - weightFrames[i]!);
  return weights[i]! + t * (weights[i + 1]! - weights[i]!);
}
