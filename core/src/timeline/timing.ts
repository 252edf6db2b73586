import { Memory } from '../memory/memory';
import type { Clip } from '../clip/clip';
import { examineLoop } from '../loops/loop';
import type { Rate } from '../math/rate';
import { framesPerSecond } from '../math/rate';
import type { Segment } from '../scene/segment';

/** The sums of one segment: how many frames it fills, and how clip time runs along them. */
export interface SegmentTiming {
  /** Samples that one pass plays. */
  readonly period: number;
  /** Frames that the segment fills: those of its motion, and those for which its ends are held. */
  readonly frames: number;
  /** How fast it plays; follows from the length where one is set. */
  readonly speed: number;
  /** Samples that pass in one frame of the scene. */
  readonly samplesPerFrame: number;
}

/** Sums that should be whole may miss it by this much through rounding. */
const ROUNDING = 1e-9;

/** What the arithmetic of a segment needs of it. */
export type TimingInput = Pick<Segment, 'in' | 'out' | 'repeat' | 'loop' | 'speed' | 'length' | 'hold'>;

/** Samples that one pass of [in, out) plays: one less where it loops and its last sample is not to be shown. */
function playedPeriod(
  clip: Clip,
  segment: Pick<Segment, 'in' | 'out' | 'loop'>,
  memory = new Memory(),
): number {
  const whole = segment.out - segment.in;
  if (!segment.loop) return whole;
  const { verdict } = examineLoop(clip, segment.in, segment.out, null, memory);
  return verdict === 'ordinary' ? whole : Math.max(whole - 1, Math.min(whole, 1));
}

/** Frames that a segment fills and the time it plays at (the arithmetic of spans of the cue sheet). */
export function segmentTiming(
  segment: TimingInput,
  clip: Clip,
  rate: Rate,
  memory = new Memory(),
): SegmentTiming {
  const R = framesPerSecond(rate);
  const held = segment.hold.start + segment.hold.end;
  const period = playedPeriod(clip, segment, memory);
  const played = period * segment.repeat;
  if (segment.length !== null) {
    const speed = (played * R) / (clip.rate * segment.length);
    return { period, frames: segment.length + held, speed, samplesPerFrame: played / segment.length };
  }
  const frames = Math.max(1, Math.floor((played * R) / (clip.rate * segment.speed) + 0.5 + ROUNDING));
  return {
    period,
    frames: frames + held,
    speed: segment.speed,
    samplesPerFrame: (clip.rate * segment.speed) / R,
  };
}
