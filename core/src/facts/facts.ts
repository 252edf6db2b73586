import { Memory } from '../memory/memory';
import { soleHeights } from '../skeleton/sole';
import type { Clip } from '../clip/clip';
import type { RootJump } from '../clip/flaws';
import { rootJumps, wayLength } from '../clip/flaws';
import type { Loop } from '../loops/loop';
import { examineLoop } from '../loops/loop';
import { rootTrack } from '../clip/root';
import type { Span, Steps } from '../steps/steps';
import { findSteps } from '../steps/steps';
import { jointTracks } from '../clip/jointTracks';

/** What is measured of a clip once, when it comes in. */
export interface ClipFacts {
  readonly frames: number;
  readonly rate: number;
  readonly seconds: number;
  /** Net way of the root on the floor, metres. */
  readonly travelMetres: number;
  /** Net turn of the root, degrees. */
  readonly turnDegrees: number;
  /** Mean speed of the root along its way, metres a second. */
  readonly meanSpeed: number;
  /** Travel of a cycle by its time, metres a second; null for what does not repeat. */
  readonly strideSpeed: number | null;
  /** Where the root jumps within the clip. */
  readonly jumps: readonly RootJump[];
  /** Height of the planted feet's soles over the floor in their lowest step, centimetres; negative sinks. */
  readonly floatCm: number;
  readonly leftFoot: readonly Span[];
  readonly rightFoot: readonly Span[];
  readonly loop: Loop;
  /** One frame only: a rest pose, not a motion. */
  readonly restPose: boolean;
}

/** Measures a clip. */
export function clipFacts(clip: Clip, memory = new Memory()): ClipFacts {
  const root = rootTrack(clip, memory);
  const last = (clip.frames - 1) * 3;
  const steps = findSteps(clip, memory);
  const loop = examineLoop(clip, 0, clip.frames, null, memory);
  const seconds = (clip.frames - 1) / clip.rate;
  const repeats = clip.frames > 1 && loop.verdict !== 'none';
  return {
    frames: clip.frames,
    rate: clip.rate,
    seconds,
    travelMetres: Math.hypot(root[last]! - root[0]!, root[last + 1]! - root[1]!),
    turnDegrees: ((root[last + 2]! - root[2]!) * 180) / Math.PI,
    meanSpeed: seconds > 0 ? wayLength(clip, memory) / seconds : 0,
    strideSpeed: repeats ? (Math.hypot(loop.cycle.x, loop.cycle.z) * clip.rate) / loop.period : null,
    jumps: rootJumps(clip, memory),
    floatCm: floatMetres(clip, steps) * 100,
    leftFoot: steps.leftFoot,
    rightFoot: steps.rightFoot,
    loop,
    restPose: clip.frames === 1,
  };
}

/**
 * How far the planted joints stand above the height that they have over the rest pose's sole: the median over the
 * steps of each step's lowest moment, in metres.
 */
function floatMetres(clip: Clip, { joints }: Steps): number {
  if (joints.length === 0) return 0;
  const sole = soleHeights(clip.skeleton);
  const tracks = jointTracks(
    clip,
    joints.map((j) => j.joint),
  );
  const lows = joints.flatMap(({ joint, spans }, i) =>
    spans.map((span) => {
      let low = Infinity;
      for (let f = span.start; f < span.end; f++)
        low = Math.min(low, tracks[(f * joints.length + i) * 3 + 1]!);
      return low - sole(joint);
    }),
  );
  if (lows.length === 0) return 0;
  return lows.sort((a, b) => a - b)[lows.length >> 1]!;
}
