import { makePoseBuffer } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { shortestTurn } from '../math/floorMove';
import type { CharacterPlan } from '../plan/plan';
import { seamLength } from './measureSeam';
import type { Window } from './window';
import { readWindow, sourceReader } from './window';

/** How one motion goes over frames: one value a frame, NaN where it has none. */
export interface Trace {
  /** Of the joint asked for, metres a second; of a frame, from the one before it. */
  readonly speed: Float64Array;
  /** Of the root, degrees, without jumps at half a turn. */
  readonly heading: Float64Array;
  /** Of the lowest joint of each foot, centimetres over the floor. */
  readonly heights: readonly Float64Array[];
}

/** The motions on both sides of a seam and what comes out, over the same frames. */
export interface SeamTraces {
  /** First frame, and how many. */
  readonly from: number;
  readonly frames: number;
  /** Roles of the feet, in the order of `heights`. */
  readonly feet: readonly string[];
  readonly outgoing: Trace;
  readonly incoming: Trace;
  readonly result: Trace;
}

/**
 * How a joint's speed, the heading and the heights of the feet go around the seam between segments `index` and `index + 1`: in the
 * sources, each as its clip was put, and in what is performed.
 *
 * @param joint whose speed is taken
 * @param margin frames before and after the seam
 */
export function seamTraces(
  plan: CharacterPlan,
  index: number,
  framesPerSecond: number,
  joint: number,
  margin: number,
): SeamTraces {
  const [before, after] = [plan.segments[index]!, plan.segments[index + 1]!];
  const feet = after.steps().joints;
  const joints = [joint, ...feet.map((f) => f.joint)];
  const from = Math.max(plan.start, after.start - margin);
  const to = Math.min(plan.end, after.start + seamLength(after) + margin);
  const buffer = makePoseBuffer(plan.skeleton);
  // One frame more before, so that the first has a speed.
  const count = Math.max(1, to - from) + 1;
  const trace = (read: Parameters<typeof readWindow>[4]): Trace =>
    traceOf(readWindow(plan, joints, from - 1, count, read), joints.length, framesPerSecond);
  const traces = {
    outgoing: trace(sourceReader(before, after.start, buffer)),
    incoming: trace(sourceReader(after, after.start, buffer)),
    result: trace((f) => (f < plan.start ? null : evaluate(plan, f, buffer))),
  };
  alignHeadings(traces.result.heading, [traces.outgoing.heading, traces.incoming.heading]);
  return { from, frames: count - 1, feet: feet.map((f) => f.role), ...traces };
}

function traceOf({ places, roots }: Window, joints: number, framesPerSecond: number): Trace {
  const frames = roots.length / 3 - 1;
  const at = (f: number, j: number, k: number): number => places[((f + 1) * joints + j) * 3 + k]!;
  const speed = Float64Array.from({ length: frames }, (_, f) => {
    const [dx, dy, dz] = [0, 1, 2].map((k) => at(f, 0, k) - at(f - 1, 0, k)) as [number, number, number];
    return Math.hypot(dx, dy, dz) * framesPerSecond;
  });
  const heading = new Float64Array(frames);
  let last = NaN;
  for (let f = 0; f < frames; f++) {
    const turn = roots[(f + 1) * 3 + 2]!;
    last = Number.isNaN(last) ? turn : last + shortestTurn(turn - last);
    heading[f] = (last * 180) / Math.PI;
  }
  const heights = Array.from({ length: joints - 1 }, (_, j) =>
    Float64Array.from({ length: frames }, (__, f) => at(f, j + 1, 1) * 100),
  );
  return { speed, heading, heights };
}

/** Brings headings that differ by whole turns next to those of the result. */
function alignHeadings(result: Float64Array, others: readonly Float64Array[]): void {
  for (const heading of others) {
    const shared = heading.findIndex((h, f) => !Number.isNaN(h) && !Number.isNaN(result[f]!));
    if (shared < 0) continue;
    const turns = Math.round((result[shared]! - heading[shared]!) / 360) * 360;
    for (let f = 0; f < heading.length; f++) heading[f]! += turns;
  }
}
