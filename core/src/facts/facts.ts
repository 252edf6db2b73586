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
  /** Net turn of the body, degrees, without the swing of its hips. */
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
    turnDegrees: netTurnDegrees(clip, root, steps, loop),
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

/** Turns below this read as none, degrees. */
const NO_TURN = 0.05;

/**
 * The net turn of a clip: of a loop the turn of its cycle, which is the fit of one pose onto the next like it; else from the mean
 * facing of the first stride to that of the last, since the hips of one pose swing by ten degrees and more. Where nobody
 * strides at an end, the facing there.
 */
function netTurnDegrees(clip: Clip, root: Float64Array, steps: Steps, loop: Loop): number {
  const repeats = loop.verdict === 'doubled' || loop.verdict === 'ordinary';
  const turn = repeats
    ? loop.cycle.turn
    : meanHeading(clip, root, steps, 'end') - meanHeading(clip, root, steps, 'start');
  const degrees = (turn * 180) / Math.PI;
  return Math.abs(degrees) < NO_TURN ? 0 : degrees;
}

/** How long a stride takes, seconds; and how near to an end of the clip it has to be to stand for it. */
const STRIDE = { least: 0.4, most: 1.6 };

/** The heading at an end of a clip: the mean over the stride there, or the very heading where there is none. */
function meanHeading(clip: Clip, root: Float64Array, steps: Steps, end: 'start' | 'end'): number {
  const samples = strideAt(clip, steps, end);
  const from = end === 'start' ? 0 : clip.frames - Math.max(1, samples);
  let sum = 0;
  for (let i = from; i < from + Math.max(1, samples); i++) sum += root[i * 3 + 2]!;
  return sum / Math.max(1, samples);
}

/** Samples between two landings of one foot next to an end of a clip; 0 where there are none. */
function strideAt(clip: Clip, { leftFoot, rightFoot }: Steps, end: 'start' | 'end'): number {
  const most = STRIDE.most * clip.rate;
  for (const spans of [leftFoot, rightFoot]) {
    // A span that begins with the clip may have landed before it.
    const landings = spans.map((s) => s.start).filter((f) => f > 0);
    const [a, b] = end === 'start' ? landings : landings.slice(-2);
    if (a === undefined || b === undefined) continue;
    const away = end === 'start' ? b : clip.frames - a;
    const stride = b - a;
    if (away <= most && stride >= STRIDE.least * clip.rate && stride < clip.frames) return stride;
  }
  return 0;
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
