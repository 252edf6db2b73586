import { Memory } from '../memory/memory';
import type { Clip } from '../clip/clip';
import type { PoseDistance } from '../clip/poseDistance';
import { poseDistance, typicalAcceleration } from '../clip/poseDistance';
import { sameSkeleton } from '../steps/mapClip';
import type { Rate } from '../math/rate';
import { framesPerSecond } from '../math/rate';
import type { Segment } from '../scene/segment';
import { alone, endOf, framesAt30, halfOf, mostOverlap } from './freeFrames';
import type { Placed } from './lane';
import { inCycle, samplesAt, timeMap } from './timeMap';
import type { SegmentTiming } from './timing';

/** Shortest and longest crossfade that the rule gives, frames at 30 a second, and the shortest that is one. */
const AUTO = { least: 8, most: 24, shortest: 3 };

/**
 * Metres a second at which a joint may glide from one motion to the other. Measured on capture at pairs less than 6 cm
 * apart: half of the seams then surge by less than 0.6 cm a frame.
 */
const GLIDE = 0.15;

/** Steepest slope of the smooth curve, in lengths of the overlap. */
const STEEPEST = 1.5;

/**
 * Frames of crossfade that two poses so far apart ask for, 8 to 24 at 30 a second. Two limits: the crossfade is to ask no
 * more acceleration of the joints than the clips do themselves, fps sqrt(6 d / a); and no joint is to glide faster than
 * 15 cm a second, 1.5 d / overlap at its steepest. On capture it is nearly always the second that decides.
 *
 * @param acceleration usual acceleration of the two clips, metres a second squared
 */
export function overlapFor({ mean, worst }: PoseDistance, acceleration: number, fps: number): number {
  const soft = fps * Math.sqrt((6 * mean) / Math.max(acceleration, 1e-3));
  const slow = (fps * STEEPEST * worst) / GLIDE;
  const frames = Math.ceil(Math.max(soft, slow) - 1e-9);
  return Math.min(Math.max(frames, Math.round((AUTO.least * fps) / 30)), Math.round((AUTO.most * fps) / 30));
}

/** A segment with its sums and its clip. */
export interface Timed {
  readonly segment: Segment;
  readonly timing: SegmentTiming;
  readonly clip: Clip;
}

/**
 * Frames of crossfade by how unlike the two motions are where they would meet: the shortest overlap that is as long as the
 * poses in its middle ask for, else the one over which the joints glide least. Less where there is no room; 0 where hardly
 * any is, which had better settle.
 *
 * @param before the laid-out segment before, with its clip
 */
export function autoOverlap(
  rate: Rate,
  before: { readonly placed: Placed; readonly clip: Clip },
  incoming: Timed,
  memory = new Memory(),
): number {
  const fps = framesPerSecond(rate);
  const { placed } = before;
  const room = Math.min(
    halfOf(incoming.timing.frames),
    mostOverlap(endOf(placed), alone(incoming.timing.frames)),
  );
  const least = framesAt30(AUTO.least, rate);
  const wanted = sameSkeleton(before.clip.skeleton, incoming.clip.skeleton)
    ? bestOverlap({ ...placed, clip: before.clip }, incoming, fps, least, Math.max(least, room), memory)
    : least;
  const frames = Math.min(wanted, room);
  return frames >= AUTO.shortest ? frames : 0;
}

function bestOverlap(
  before: Timed,
  incoming: Timed,
  fps: number,
  least: number,
  room: number,
  memory: Memory,
): number {
  const acceleration = Math.max(
    typicalAcceleration(before.clip, memory),
    typicalAcceleration(incoming.clip, memory),
  );
  const most = Math.min(Math.round((AUTO.most * fps) / 30), room);
  let best = { frames: least, glide: Infinity };
  for (let frames = least; frames <= most; frames++) {
    const distance = poseDistance(
      before.clip,
      shownSample(before, before.timing.frames - frames / 2),
      incoming.clip,
      shownSample(incoming, frames / 2),
    );
    if (overlapFor(distance, acceleration, fps) <= frames) return frames;
    const glide = distance.worst / frames;
    if (glide < best.glide) best = { frames, glide };
  }
  return best.frames;
}

/** The sample of its clip that a segment shows so many frames after its start. */
function shownSample({ segment, timing }: Timed, frame: number): number {
  const played = samplesAt(timeMap(segment, timing), frame);
  return segment.in + (segment.loop ? inCycle(played, timing.period) : Math.max(0, played));
}
