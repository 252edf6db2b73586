/** How much shorter or longer than recorded strides, and how much slower or faster cycles, may be without looking so. */
export const HONEST_STRIDES = { least: 0.8, most: 1.25 } as const;

/** A walk, and where it is to arrive. */
export interface MarkAsked {
  /** Metres to the mark, in a straight line. */
  readonly distance: number;
  /** Frames until it is to be hit. */
  readonly frames: number;
  /** Metres and frames of a cycle as it was recorded. */
  readonly cycleDistance: number;
  readonly cycleFrames: number;
}

/** How a mark is hit: after so many whole cycles, with strides and a pace of so many times the recorded ones. */
export interface MarkReached {
  readonly cycles: number;
  readonly stride: number;
  readonly pace: number;
}

/** That a mark cannot be hit so, and when it could be at the recorded pace: after so many frames; null never. */
export interface MarkMissed {
  readonly cycles: null;
  readonly frames: number | null;
}

const isHonest = (times: number): boolean =>
  times >= HONEST_STRIDES.least - 1e-9 && times <= HONEST_STRIDES.most + 1e-9;

/**
 * Finds how a walk hits a mark at a frame by whole cycles, so that it arrives in the pose in which it set out, with strides and a pace as
 * near to the recorded ones as can be and both within 0.8 to 1.25 of them.
 */
export function reachMark({
  distance,
  frames,
  cycleDistance,
  cycleFrames,
}: MarkAsked): MarkReached | MarkMissed {
  if (!(cycleDistance > 0) || !(cycleFrames > 0) || !(frames > 0) || !(distance >= 0))
    return { cycles: null, frames: null };
  let best: MarkReached | null = null;
  let least = Infinity;
  const most = Math.ceil((frames * HONEST_STRIDES.most) / cycleFrames);
  for (let cycles = 1; cycles <= most; cycles++) {
    const stride = distance / (cycles * cycleDistance);
    const pace = (cycles * cycleFrames) / frames;
    if (!isHonest(stride) || !isHonest(pace)) continue;
    const cost = Math.abs(Math.log(stride)) + Math.abs(Math.log(pace));
    if (cost < least) [best, least] = [{ cycles, stride, pace }, cost];
  }
  if (best) return best;
  const cycles = Math.round(distance / cycleDistance);
  if (cycles < 1 || !isHonest(distance / (cycles * cycleDistance))) return { cycles: null, frames: null };
  return { cycles: null, frames: Math.round(cycles * cycleFrames) };
}
