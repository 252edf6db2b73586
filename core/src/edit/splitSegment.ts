import { monotoneSpline, splineAt } from '../math/spline';
import type { Handle } from '../math/spline';
import type { Segment } from '../scene/segment';
import type { Placed } from '../timeline/lane';
import { inCycle } from '../timeline/timeMap';

/** Points that a speed curve keeps on either side of a cut. */
const POINTS = 9;

/**
 * The nearest place for a cut, frames after a segment's start, at which what is held stays held: a still needs two frames,
 * or the motion would go on beyond it.
 */
export function clearOfHolds({ segment, timing }: Placed, at: number): number {
  const { hold } = segment;
  const last = timing.frames - hold.end;
  if (hold.start > 0 && at <= hold.start) return hold.start >= 2 ? Math.max(2, at) : hold.start + 1;
  if (hold.end > 0 && at >= last)
    return hold.end >= 3 ? Math.min(Math.max(at, last + 1), timing.frames - 2) : last - 1;
  return at;
}

/** What both parts of a segment are that is cut so many frames after its start. */
export function partsAt({ segment, timing }: Placed, at: number): [Partial<Segment>, Partial<Segment>] {
  const { hold, marks, fade } = segment;
  const motion = timing.frames - hold.start - hold.end;
  const shared = { length: null, speed: timing.speed };
  const first = {
    ...shared,
    marks: marks.filter((m) => m.frame <= at),
    fade: { in: fade.in, out: 0 },
  };
  const second = {
    ...shared,
    marks: marks.filter((m) => m.frame > at).map((m) => ({ ...m, frame: m.frame - at })),
    fade: { in: 0, out: fade.out },
  };
  const d = at - hold.start;
  if (d <= 0) {
    const still = { ...first, ...stillAt(segment, timing, 0), hold: { start: 0, end: at - 1 } };
    return [still, { ...second, hold: { start: hold.start - at, end: hold.end } }];
  }
  if (d >= motion) {
    const rest = timing.frames - at;
    const still = { ...second, ...stillAt(segment, timing, motion - 1), hold: { start: 0, end: rest - 1 } };
    return [{ ...first, hold: { start: hold.start, end: d - motion } }, still];
  }
  const curve = segment.speedCurve && monotoneSpline([[0, 0], ...segment.speedCurve, [1, 1]]);
  const whole = timing.period * segment.repeat;
  const share = curve ? splineAt(curve, d / motion) : d / motion;
  const played = curve ? share * whole : d * timing.samplesPerFrame;
  const bent = (from: number, to: number): Pick<Segment, 'speedCurve'> =>
    curve ? { speedCurve: pieceOf((x) => splineAt(curve, x), from, to) } : { speedCurve: null };
  const lengths = curve ? [{ length: d }, { length: motion - d }] : [{}, {}];
  return [
    {
      ...first,
      ...samplesOf(segment, timing.period, 0, played),
      ...bent(0, d / motion),
      ...lengths[0],
      hold: { start: hold.start, end: 0 },
    },
    {
      ...second,
      ...samplesOf(segment, timing.period, played, whole),
      ...bent(d / motion, 1),
      ...lengths[1],
      hold: { start: 0, end: hold.end },
    },
  ];
}

/** The part of a segment's samples between two numbers of them played. */
function samplesOf(segment: Segment, period: number, from: number, to: number): Partial<Segment> {
  const { reverse, loop } = segment;
  const whole = period * segment.repeat;
  if (loop) {
    // Backwards the whole cycles that are still to come count too: they say where the loop stands.
    const phase = reverse ? segment.phase + whole - to : inCycle(segment.phase + from, period);
    return { repeat: (to - from) / period, phase };
  }
  return reverse
    ? { repeat: 1, in: segment.out - to, out: segment.out - from }
    : { repeat: 1, in: segment.in + from, out: segment.in + to };
}

/** One sample for one frame: what a segment shows so many frames into its motion. */
function stillAt(segment: Segment, timing: Placed['timing'], frame: number): Partial<Segment> {
  const played = frame * timing.samplesPerFrame;
  const whole = timing.period * segment.repeat;
  const m = (segment.reverse ? whole - 1 - played : played) + (segment.loop ? segment.phase : 0);
  const still = { reverse: false, length: 1, speedCurve: null };
  // A loop is closed as a whole: its sample is the one of the closed cycle.
  if (segment.loop) return { ...still, phase: m < 0 ? m + timing.period : m, repeat: 1 / timing.period };
  const sample = Math.max(0, segment.in + m);
  return { ...still, in: sample, out: sample + 1, repeat: 1 };
}

/** The stretch of a rising curve between two shares of its way, as points of a curve of its own. */
function pieceOf(at: (x: number) => number, from: number, to: number): Handle[] | null {
  const [low, high] = [at(from), at(to)];
  if (!(high > low)) return null;
  return Array.from({ length: POINTS }, (_, k): Handle => {
    const x = (k + 1) / (POINTS + 1);
    return [x, Math.min(1, Math.max(0, (at(from + x * (to - from)) - low) / (high - low)))];
  });
}
