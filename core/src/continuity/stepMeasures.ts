import { Memory } from '../memory/memory';
import type { Clip } from '../clip/clip';
import type { Span } from '../steps/steps';
import { findSteps, tipBeside } from '../steps/steps';
import { jointTracks } from '../clip/jointTracks';
import { soleHeights } from '../skeleton/sole';

/** One step of one planted joint in a performance. */
export interface StepMeasure {
  readonly joint: string;
  readonly start: number;
  readonly end: number;
  /** Length of the joint's way on the floor while the foot rests on it, centimetres. */
  readonly slideCm: number;
  /** Height of the joint's sole over the floor at its lowest in the step, centimetres; negative sinks. */
  readonly floatCm: number;
}

/**
 * Slide of every step of a baked clip: the floor path of the planted joint while it carries the foot. Toes come before
 * the ankle: an ankle that turns over planted toes rolls and does not slide.
 *
 * @param offset frame of the clip's first sample, added to the spans
 */
export function measureSteps(clip: Clip, offset = 0, memory = new Memory()): StepMeasure[] {
  const { joints } = findSteps(clip, memory);
  const sole = soleHeights(clip.skeleton);
  const tracks = jointTracks(
    clip,
    joints.map((j) => j.joint),
  );
  return joints.flatMap((steps, column) => {
    const { joint, spans } = steps;
    const toes = tipBeside(joints, steps);
    return spans.map((span) => ({
      joint: clip.skeleton.names[joint]!,
      start: span.start + offset,
      end: span.end + offset,
      floatCm: (lowest(tracks, joints.length, column, span) - sole(joint)) * 100,
      slideCm: carriedPath(tracks, joints.length, column, span, toes?.spans ?? []) * 100,
    }));
  });
}

function lowest(tracks: Float64Array, columns: number, column: number, span: Span): number {
  let low = Infinity;
  for (let f = span.start; f < span.end; f++) low = Math.min(low, tracks[(f * columns + column) * 3 + 1]!);
  return low;
}

/** Floor path of a column over a span, without the steps that both begin and end inside the others. */
function carriedPath(
  tracks: Float64Array,
  columns: number,
  column: number,
  span: Span,
  others: readonly Span[],
): number {
  const rests = (f: number): boolean => others.some((s) => f >= s.start && f < s.end);
  let length = 0;
  for (let f = span.start + 1; f < span.end; f++) {
    if (!(rests(f) && rests(f - 1)))
      length += floorPath(tracks, columns, column, { start: f - 1, end: f + 1 });
  }
  return length;
}

/** Length of the way of one column of tracks on the floor over [start, end), metres. */
export function floorPath(tracks: Float64Array, columns: number, column: number, span: Span): number {
  let length = 0;
  for (let f = span.start + 1; f < span.end; f++) {
    const a = ((f - 1) * columns + column) * 3;
    const b = (f * columns + column) * 3;
    length += Math.hypot(tracks[b]! - tracks[a]!, tracks[b + 2]! - tracks[a + 2]!);
  }
  return length;
}
