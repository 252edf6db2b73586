import { soleHeights } from '../skeleton/sole';
import type { Clip } from './clip';
import type { Loop } from './loop';
import { examineLoop } from './loop';
import { rootTrack } from './root';
import type { Span } from './steps';
import { findSteps } from './steps';
import { jointTracks } from './track';

/** What is measured of a clip once, when it comes in. */
export interface ClipFacts {
  readonly frames: number;
  readonly rate: number;
  readonly seconds: number;
  /** Net way of the root on the floor, metres. */
  readonly travelMetres: number;
  /** Net turn of the root, degrees. */
  readonly turnDegrees: number;
  /** Height of the planted feet's soles over the floor in their lowest step, centimetres; negative sinks. */
  readonly floatCm: number;
  readonly leftFoot: readonly Span[];
  readonly rightFoot: readonly Span[];
  readonly loop: Loop;
  /** One frame only: a rest pose, not a motion. */
  readonly restPose: boolean;
}

/** Measures a clip. */
export function clipFacts(clip: Clip): ClipFacts {
  const root = rootTrack(clip);
  const last = (clip.frames - 1) * 3;
  const steps = findSteps(clip);
  return {
    frames: clip.frames,
    rate: clip.rate,
    seconds: (clip.frames - 1) / clip.rate,
    travelMetres: Math.hypot(root[last]! - root[0]!, root[last + 1]! - root[1]!),
    turnDegrees: ((root[last + 2]! - root[2]!) * 180) / Math.PI,
    floatCm: floatMetres(clip) * 100,
    leftFoot: steps.leftFoot,
    rightFoot: steps.rightFoot,
    loop: examineLoop(clip),
    restPose: clip.frames === 1,
  };
}

/**
 * How far the planted joints stand above the height that they have over the rest pose's sole: the median over the
 * steps of each step's lowest moment, in metres.
 */
function floatMetres(clip: Clip): number {
  const { joints } = findSteps(clip);
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
