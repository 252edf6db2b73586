import type { Skeleton } from '../skeleton/skeleton';
import { defined } from '../math/defined';
import type { Memory } from '../memory/memory';
import type { Clip } from '../clip/clip';
import { InputError } from '../math/errors';
import type { Rate } from '../math/rate';
import { framesPerSecond, parseRate } from '../math/rate';
import type { Lane } from '../scene/lane';
import type { Scene } from '../scene/scene';
import type { Segment } from '../scene/segment';
import type { SegmentTiming } from './timing';
import { segmentTiming } from './timing';

/** Where clips are found by id, with the memory of what was derived from them. */
export interface ClipSource {
  readonly clip: (id: string) => Clip | undefined;
  /** The skeleton of a body, for what depends on left and right. */
  readonly body?: (id: string) => Skeleton | undefined;
  readonly memory: Memory;
}

/** A segment with its place and sums. */
export interface Placed {
  readonly segment: Segment;
  readonly timing: SegmentTiming;
  readonly start: number;
  readonly end: number;
  /** Frames that it shares with the segment before; 0 for the first and for cuts. */
  readonly overlap: number;
  /** Frames without a segment before it. */
  readonly gap: number;
}

/**
 * The clip of a segment.
 *
 * @throws InputError `missing-clip` where the library does not have it
 */
export function requireClip(segment: Segment, library: Pick<ClipSource, 'clip'>): Clip {
  const clip = library.clip(segment.clip);
  if (!clip) {
    throw new InputError('missing-clip', `The clip of ${segment.name} is not in the library.`, {
      place: { path: `segments.${segment.id}.clip` },
      hint: 'Import the file that it came from again.',
    });
  }
  return clip;
}

/**
 * Lays out a lane: the span of every segment that is not switched off, in order of time.
 *
 * @param cached what segment i of the lane was laid out as before, where neither the rate nor anything of it but its start has changed;
 *   taken over where it fits
 */
export function layOut(
  scene: Scene,
  lane: Lane,
  library: ClipSource,
  cached: (i: number) => Placed | undefined = () => undefined,
): Placed[] {
  const rate = parseRate(scene.rate);
  const placed: Placed[] = [];
  for (let i = 0; i < lane.segments.length; i++) {
    const segment = defined(scene.segments[defined(lane.segments[i])]);
    if (segment.off) continue;
    const before = placed.at(-1);
    const room = before ? before.end - segment.start : 0;
    const previous = cached(i);
    if (previous && previous.segment === segment && previous.overlap - previous.gap === room) {
      placed.push(previous);
      continue;
    }
    const timing =
      previous?.timing ?? segmentTiming(segment, requireClip(segment, library), rate, library.memory);
    placed.push({
      segment,
      timing,
      start: segment.start,
      end: segment.start + timing.frames,
      overlap: Math.max(0, room),
      gap: Math.max(0, -room),
    });
  }
  return placed;
}

/** The first frame, and the one after the last, of a laid-out lane; null for an empty one. */
export function laneSpan(placed: readonly Placed[]): { start: number; end: number } | null {
  const first = placed[0];
  const last = placed.at(-1);
  return first && last ? { start: first.start, end: last.end } : null;
}

/** Seconds in which a cut settles unless asked otherwise. */
const SETTLE_SECONDS = 0.3;

/** Seconds that a made step takes unless asked otherwise (common practice: 20 frames at 30 a second). */
const STEP_SECONDS = 2 / 3;

/** Frames of a made step unless asked otherwise. */
export const stepFrames = (rate: Rate): number =>
  Math.max(1, Math.round(STEP_SECONDS * framesPerSecond(rate)));

/** Frames in which a cut settles unless asked otherwise. */
export const settleFrames = (rate: Rate): number =>
  Math.max(1, Math.round(SETTLE_SECONDS * framesPerSecond(rate)));
