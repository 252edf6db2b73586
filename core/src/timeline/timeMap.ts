import type { Spline } from '../math/spline';
import { monotoneSpline, splineAt } from '../math/spline';
import type { Segment } from '../scene/segment';
import type { SegmentTiming } from './timing';

/** How clip time runs along a segment's frames. */
export interface TimeMap {
  /** Frames for which the first pose is held before the motion, and the last one after it. */
  readonly holdStart: number;
  readonly holdEnd: number;
  /** Frames of motion between them. */
  readonly motion: number;
  readonly samplesPerFrame: number;
  /** Samples that the motion plays, over all repeats. */
  readonly total: number;
  /** Samples that have been played before the first frame. */
  readonly phase: number;
  readonly reverse: boolean;
  /** Share of the frames -> share of the motion; null runs evenly. */
  readonly curve: Spline | null;
}

/** The time map of a segment. */
export function timeMap(
  segment: Pick<Segment, 'hold' | 'reverse' | 'speedCurve' | 'repeat' | 'loop' | 'phase'>,
  timing: SegmentTiming,
): TimeMap {
  const { hold, reverse, speedCurve, repeat, loop, phase } = segment;
  return {
    holdStart: hold.start,
    holdEnd: hold.end,
    motion: timing.frames - hold.start - hold.end,
    samplesPerFrame: timing.samplesPerFrame,
    total: timing.period * repeat,
    phase: loop ? phase : 0,
    reverse,
    curve: speedCurve ? monotoneSpline([[0, 0], ...speedCurve, [1, 1]]) : null,
  };
}

/**
 * Samples played since the in point (real, over all repeats) so many frames after a segment's start. Held ends stand
 * still; else the motion goes on beyond both ends, as the neighbours of a seam need it.
 */
export function samplesAt(map: TimeMap, frames: number): number {
  let x = frames - map.holdStart;
  if (x < 0 && map.holdStart > 0) x = 0;
  if (map.holdEnd > 0 && x > map.motion - 1) x = map.motion - 1;
  const whole = map.motion * map.samplesPerFrame;
  const played = map.curve ? whole * splineAt(map.curve, x / map.motion) : x * map.samplesPerFrame;
  return map.phase + (map.reverse ? map.total - 1 - played : played);
}

/** Rounding of sample numbers up to which one counts as met exactly. */
export const ON_SAMPLE = 1e-9;

/** Whole cycles of a loop that so many samples have played. */
export const cyclesIn = (samples: number, period: number): number => Math.floor(samples / period + ON_SAMPLE);

/** Samples of its present cycle that a loop has played after so many in all. */
export const inCycle = (samples: number, period: number): number =>
  Math.max(0, samples - cyclesIn(samples, period) * period);
