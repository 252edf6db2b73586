import type { Draft } from 'immer';
import { InputError } from '../math/errors';
import type { Segment } from '../scene/scene';
import { PLAIN_SEAM } from '../scene/scene';
import type { Handle } from '../math/spline';
import { monotoneSpline, splineAt } from '../math/spline';
import { requireUnusedId } from './lookup';
import type { Placed } from '../timeline/lane';
import { requireClip } from '../timeline/lane';
import type { LaneEditor } from './laneEditor';
import { inCycle } from '../timeline/timeMap';
import { motionOf } from './laneEditor';
import { endLimits, startLimits } from '../timeline/freeFrames';
import { segmentTiming } from '../timeline/timing';
import { parseRate } from '../math/rate';

/** Points that a speed curve keeps on either side of a cut. */
const POINTS = 9;

/**
 * Cuts a segment in two at a frame; what is shown stays the same. A frame within a seam goes to the nearest one outside.
 *
 * @param id what the second part is called
 * @throws InputError `edit` where there is no room for two parts, or the segment follows a path
 */
export function cutAt(editor: LaneEditor, segmentId: string, frame: number, id: string): void {
  const { lane, placed, i, own } = editor.find(segmentId);
  requireUnusedId(editor.scene.segments, id, 'segment');
  const first = editor.scene.segments[segmentId]!;
  const from = Math.max(1, own.overlap + 1);
  const to = own.timing.frames - Math.max(1, (placed[i + 1]?.overlap ?? 0) + 1);
  if (from > to) {
    throw new InputError('edit', `${first.name} is too short to be cut between its seams.`, {
      place: { path: `segments.${segmentId}` },
    });
  }
  if (first.path.length > 0) {
    throw new InputError('edit', `${first.name} follows a path and cannot be cut.`, {
      place: { path: `segments.${segmentId}` },
      hint: 'Take the path away, or trim a duplicate of it.',
    });
  }
  const at = clearOfHolds(own, Math.min(Math.max(Math.round(frame) - own.start, from), to));
  if (at < from || at > to) {
    throw new InputError('edit', `${first.name} has no room for a cut at its held ends.`, {
      place: { path: `segments.${segmentId}`, frame: own.start + at },
    });
  }
  const [a, b] = partsAt(own, at);
  Object.assign(first, a);
  const second: Draft<Segment> = {
    ...own.segment,
    ...b,
    id,
    start: own.start + at,
    // One motion on both sides: its root goes on exactly, whatever is compared around it.
    seam: { ...PLAIN_SEAM, fit: 'hips', curve: own.segment.seam.curve, gap: own.segment.seam.gap },
  } as Draft<Segment>;
  editor.scene.segments[id] = second;
  lane.segments.splice(lane.segments.indexOf(segmentId) + 1, 0, id);
  joinGroup(editor, segmentId, id);
}

/** Puts a segment into the group that another is in. */
export function joinGroup({ scene }: LaneEditor, like: string, id: string): void {
  for (const group of Object.values(scene.groups)) if (group.members.includes(like)) group.members.push(id);
}

/**
 * The nearest place for a cut, frames after a segment's start, at which what is held stays held: a still needs two frames,
 * or the motion would go on beyond it.
 */
function clearOfHolds({ segment, timing }: Placed, at: number): number {
  const { hold } = segment;
  const last = timing.frames - hold.end;
  if (hold.start > 0 && at <= hold.start) return hold.start >= 2 ? Math.max(2, at) : hold.start + 1;
  if (hold.end > 0 && at >= last)
    return hold.end >= 3 ? Math.min(Math.max(at, last + 1), timing.frames - 2) : last - 1;
  return at;
}

/** What both parts of a segment are that is cut so many frames after its start. */
function partsAt({ segment, timing }: Placed, at: number): [Partial<Segment>, Partial<Segment>] {
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

/** Holds what is shown at a frame for so many frames more, and pushes the rest on. */
export function freezeAt(
  editor: LaneEditor,
  segmentId: string,
  frame: number,
  frames: number,
  id: string,
): void {
  const { lane, placed, i, own } = editor.find(segmentId);
  const last = Math.round(frame) + 1 >= own.end - Math.max(1, (placed[i + 1]?.overlap ?? 0) + 1);
  if (!last) cutAt(editor, segmentId, Math.round(frame) + 1, id);
  const segment = editor.scene.segments[segmentId]!;
  const added = Math.max(1, Math.round(frames));
  const index = lane.segments.indexOf(segmentId);
  segment.hold = { start: segment.hold.start, end: segment.hold.end + added };
  for (const other of lane.segments.slice(index + 1)) editor.scene.segments[other]!.start += added;
}

/** Shows another part of the clip in the same place: so many samples later, as far as the clip has them. */
export function slipBy(editor: LaneEditor, id: string, samples: number): void {
  const { own } = editor.find(id);
  const segment = editor.scene.segments[id]!;
  const { frames } = requireClip(segment, editor.library);
  if (segment.loop) segment.phase = inCycle(segment.phase + samples, own.timing.period);
  else {
    const by = Math.max(Math.min(samples, Math.max(0, frames - segment.out)), -segment.in);
    segment.in += by;
    segment.out += by;
  }
}

/** The frames that a segment fills when one of its edges is brought to a frame, as near as its neighbours allow. */
function framesTo(editor: LaneEditor, id: string, edge: 'start' | 'end', frame: number): number {
  const { placed, i, own } = editor.find(id);
  const room = edge === 'end' ? endLimits(placed, i) : startLimits(placed, i);
  const at = Math.min(Math.max(Math.round(frame), room.from), room.to);
  return edge === 'end' ? at - own.start : own.end - at;
}

/** Plays a segment slower or faster so that an edge comes to a frame. */
export function stretchTo(editor: LaneEditor, id: string, edge: 'start' | 'end', frame: number): void {
  const { own } = editor.find(id);
  const frames = framesTo(editor, id, edge, frame);
  const segment = editor.scene.segments[id]!;
  const held = segment.hold.start + segment.hold.end;
  if (frames === own.timing.frames || frames - held < 1) return;
  segment.length = frames - held;
  if (edge === 'start') segment.start = own.end - frames;
}

/** Plays a segment as often as it takes for an edge to come to a frame; it goes on from its end to its start. */
export function repeatTo(editor: LaneEditor, id: string, edge: 'start' | 'end', frame: number): void {
  const { own } = editor.find(id);
  const frames = framesTo(editor, id, edge, frame);
  if (frames === own.timing.frames) return;
  const segment = editor.scene.segments[id]!;
  const before = { ...own.segment };
  segment.loop = true;
  const timing = segmentTiming(
    segment,
    requireClip(segment, editor.library),
    parseRate(editor.scene.rate),
    editor.library.memory,
  );
  editor.repeatTo(segment, { ...own, segment: { ...own.segment, loop: true }, timing }, edge, frames);
  if (editor.framesOf(segment) !== frames) Object.assign(segment, before);
  else if (edge === 'start') segment.start = own.end - frames;
}

/** What takes the place of a segment's clip. */
export interface Replacement {
  readonly clip: string;
  readonly name: string;
  /** Whether it goes on from its end to its start where it is too short. */
  readonly loop: boolean;
}

/**
 * Takes another clip in place of a segment's: it starts where it did and fills as many frames, if the clip has them or
 * loops; else the rest comes nearer.
 */
export function replaceClip(editor: LaneEditor, id: string, by: Replacement): void {
  const { lane, own } = editor.find(id);
  const segment = editor.scene.segments[id]!;
  const old = requireClip(segment, editor.library);
  const next = requireClip({ ...own.segment, clip: by.clip, name: by.name }, editor.library);
  if (segment.name === old.name) segment.name = by.name;
  Object.assign(segment, { clip: by.clip, in: 0, out: next.frames, phase: 0, repeat: 1, length: null });
  segment.loop = false;
  const rate = parseRate(editor.scene.rate);
  const wanted = own.timing.frames;
  const whole: Placed = {
    ...own,
    segment: { ...own.segment, ...(segment as Segment) },
    timing: segmentTiming(segment, next, rate),
  };
  if (whole.timing.frames > wanted) editor.cutTo(segment, whole, 'end', wanted);
  else if (whole.timing.frames < wanted && by.loop) {
    segment.loop = true;
    const looped = {
      ...whole,
      segment: { ...whole.segment, loop: true },
      timing: segmentTiming(segment, next, rate),
    };
    editor.repeatTo(segment, looped, 'end', wanted);
  }
  const grown = editor.framesOf(segment) - wanted;
  for (const other of lane.segments.slice(lane.segments.indexOf(id) + 1))
    editor.scene.segments[other]!.start += grown;
  editor.heal(lane);
}

/**
 * Sets how many frames a segment fills by taking samples from one end or giving them back; to the frame, with a part of a
 * sample where whole ones do not come out. Gives false, and changes nothing, where the clip does not have them.
 */
export function fill(editor: LaneEditor, own: Placed, edge: 'start' | 'end', frames: number): boolean {
  const segment = editor.scene.segments[own.segment.id]!;
  if (frames === own.timing.frames) return true;
  if (frames - segment.hold.start - segment.hold.end < 1) return false;
  if (segment.loop) editor.repeatTo(segment, own, edge, frames);
  else editor.cutTo(segment, own, edge, frames);
  if (editor.framesOf(segment) === frames) return true;
  if (!segment.loop) {
    const samples = motionOf(segment, frames) * own.timing.samplesPerFrame;
    const clip = requireClip(segment, editor.library);
    if ((edge === 'end') !== segment.reverse) segment.out = own.segment.in + samples;
    else segment.in = own.segment.out - samples;
    if (segment.in >= 0 && segment.out <= clip.frames && editor.framesOf(segment) === frames) return true;
  }
  Object.assign(segment, own.segment);
  return false;
}
