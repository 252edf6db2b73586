import type { Draft } from 'immer';
import { current, original } from 'immer';
import { InputError } from '../math/errors';
import { parseRate } from '../math/rate';
import type { Lane, Scene, Segment } from '../scene/scene';
import type { ClipSource, Placed } from '../timeline/lane';
import { lookup, requireUnusedId } from './lookup';
import { layOut, requireClip, settleFrames } from '../timeline/lane';
import { inCycle } from '../timeline/timeMap';
import { autoOverlap } from '../timeline/overlap';
import { endLimits, nearestStart, startLimits } from '../timeline/freeFrames';
import { segmentTiming } from '../timeline/timing';

/** The numbers of a segment that can be set. */
export type SegmentValues = Partial<Omit<Segment, 'id' | 'clip' | 'start' | 'seam'>>;

/** Whether one segment goes on with the loop of the one before it. */
export const repeatsLoop = (a: Segment, b: Segment): boolean =>
  a.loop && b.loop && a.clip === b.clip && a.in === b.in && a.out === b.out;

/** Frames of motion among the frames that a segment fills. */
export const motionOf = (segment: Segment, frames: number): number =>
  Math.max(1, frames - segment.hold.start - segment.hold.end);

/** Edits of segments on the lanes of a draft. */
export class LaneEditor {
  constructor(
    readonly scene: Draft<Scene>,
    readonly library: ClipSource,
  ) {}

  /** The lane of a segment.
   *
   * @throws InputError `edit` where there is no such segment
   */
  laneOf(segment: string): Draft<Lane> {
    lookup(this.scene.segments, segment, 'segment');
    // Looked for in what the draft was made from: a look through a draft makes one more of every lane.
    const was = Object.values((original(this.scene) ?? this.scene).lanes).find((l) =>
      l.segments.includes(segment),
    );
    const now = was && this.scene.lanes[was.id];
    const lane = now?.segments.includes(segment)
      ? now
      : Object.values(this.scene.lanes).find((l) => l.segments.includes(segment));
    if (!lane) throw new InputError('edit', `Segment ${segment} is on no lane.`);
    return lane;
  }

  /** The segments of a lane that are not switched off, laid out. */
  layOut(lane: Lane): Placed[] {
    // Read from a plain copy: a draft would make one more draft of every segment that is looked at.
    const scene = current(this.scene) as Scene;
    return layOut(scene, scene.lanes[lane.id]!, this.library);
  }

  /** A segment with its lane, laid out.
   *
   * @throws InputError `edit` where it does not exist or is switched off
   */
  find(id: string): { lane: Draft<Lane>; placed: Placed[]; i: number; own: Placed } {
    const lane = this.laneOf(id);
    const placed = this.layOut(lane);
    const i = placed.findIndex((p) => p.segment.id === id);
    const own = placed[i];
    if (!own) {
      throw new InputError('edit', `${this.scene.segments[id]!.name} is switched off.`, {
        place: { path: `segments.${id}` },
        hint: 'Switch it on in the cue sheet first.',
      });
    }
    return { lane, placed, i, own };
  }

  /** Frames that a segment fills. */
  framesOf(segment: Segment): number {
    return segmentTiming(
      segment,
      requireClip(segment, this.library),
      parseRate(this.scene.rate),
      this.library.memory,
    ).frames;
  }

  /** Moves a segment, if there is one, and all behind it by `frames`. */
  shift(lane: Lane, from: Placed | undefined, frames: number): void {
    if (!from || frames === 0) return;
    const index = lane.segments.indexOf(from.segment.id);
    for (const id of lane.segments.slice(index)) this.scene.segments[id]!.start += frames;
  }

  /** Puts a segment into the order of its lane. */
  insert(lane: Draft<Lane>, segment: Draft<Segment>): void {
    this.scene.segments[segment.id] = segment;
    // Those that are switched off only wait between others: their own starts say nothing.
    const index = lane.segments.findIndex((id) => {
      const other = this.scene.segments[id]!;
      return !other.off && other.start > segment.start;
    });
    lane.segments.splice(index < 0 ? lane.segments.length : index, 0, segment.id);
  }

  place(laneId: string, segment: Draft<Segment>, at: number | 'end'): void {
    const lane = lookup(this.scene.lanes, laneId, 'lane');
    requireUnusedId(this.scene.segments, segment.id, 'segment');
    const placed = this.layOut(lane);
    const frames = this.framesOf(segment);
    const covered = at === 'end' ? -1 : placed.findIndex((p) => at >= p.start && at < p.end);
    const last = placed.length - 1;
    if (at === 'end' || (covered >= 0 && covered === last)) {
      const end = placed[last];
      segment.start = end ? end.end - this.join(lane, end, segment, frames) : 0;
      this.insert(lane, segment);
    } else if (covered >= 0) this.insertAfter(lane, placed, covered, segment, frames);
    else {
      segment.start = nearestStart(placed, frames, Math.max(0, Math.round(at)));
      this.insert(lane, segment);
    }
  }

  /** Puts a segment after `placed[i]` and pushes the rest on. */
  insertAfter(
    lane: Draft<Lane>,
    placed: readonly Placed[],
    i: number,
    segment: Draft<Segment>,
    frames: number,
  ): void {
    const before = placed[i]!;
    const after = placed[i + 1];
    segment.start = before.end - this.join(lane, before, segment, frames);
    if (after) {
      const overlap = Math.min(after.overlap, Math.floor(frames / 2));
      const gap = after.gap;
      this.shift(lane, after, segment.start + frames - overlap + gap - after.start);
    }
    this.insert(lane, segment);
  }

  /** How a segment joins the one before it: the overlap that suits them, or a cut that settles where there is no room. */
  join(lane: Lane, before: Placed, segment: Draft<Segment>, frames: number): number {
    if (lane.kind === 'layer') return 0;
    const overlap = this.plainOverlap(before, segment, frames);
    if (overlap === 0 && !repeatsLoop(before.segment, segment)) {
      segment.seam = { ...segment.seam, settle: settleFrames(parseRate(this.scene.rate)) };
    }
    return overlap;
  }

  /** The overlap that a segment gets behind another: none between repeats of one loop. */
  plainOverlap(before: Placed, segment: Segment, frames: number): number {
    const b = before.segment;
    if (repeatsLoop(b, segment)) return 0;
    const clip = requireClip(segment, this.library);
    const rate = parseRate(this.scene.rate);
    const timing = segmentTiming(segment, clip, rate);
    return Math.min(
      autoOverlap(
        rate,
        { placed: before, clip: requireClip(b, this.library) },
        { segment, timing, clip },
        this.library.memory,
      ),
      frames - 1,
    );
  }

  move(id: string, start: number, laneId?: string): void {
    const from = this.laneOf(id);
    const lane = laneId === undefined ? from : lookup(this.scene.lanes, laneId, 'lane');
    const segment = this.scene.segments[id]!;
    from.segments = from.segments.filter((s) => s !== id);
    const frames = this.framesOf(segment);
    segment.start = nearestStart(this.layOut(lane), frames, Math.max(0, Math.round(start)));
    this.insert(lane, segment);
  }

  trim(id: string, edge: 'start' | 'end', frame: number): void {
    const { placed, i, own } = this.find(id);
    const room = edge === 'end' ? endLimits(placed, i) : startLimits(placed, i);
    const at = Math.min(Math.max(Math.round(frame), room.from), room.to);
    const frames = edge === 'end' ? at - own.start : own.end - at;
    if (frames === own.timing.frames) return;
    const segment = this.scene.segments[id]!;
    const before = { ...own.segment };
    if (segment.loop) this.repeatTo(segment, own, edge, frames);
    else this.cutTo(segment, own, edge, frames);
    const least = edge === 'end' ? room.from - own.start : own.end - room.to;
    const most = edge === 'end' ? room.to - own.start : own.end - room.from;
    // Whole samples of a slowed clip are several frames long: the nearest may lie just outside the room.
    const filled = this.framesOf(segment);
    if (filled < least) this.cutTo(segment, own, edge, frames, 1);
    if (filled > most) this.cutTo(segment, own, edge, frames, -1);
    const settled = this.framesOf(segment);
    if (settled < least || settled > most) Object.assign(segment, before);
    if (edge === 'start') segment.start = own.end - this.framesOf(segment);
  }

  /** Sets the repeats of a loop so that it fills the frames; what it showed at frames that it keeps stays. */
  repeatTo(segment: Draft<Segment>, own: Placed, edge: 'start' | 'end', frames: number): void {
    const { period, samplesPerFrame, speed } = own.timing;
    const samples = motionOf(segment, frames) * samplesPerFrame;
    const more = samples - own.segment.repeat * period;
    segment.length = null;
    segment.speed = speed;
    segment.repeat = samples / period;
    // What plays backwards counts its samples from its end.
    if ((edge === 'start') !== segment.reverse) segment.phase = inCycle(own.segment.phase - more, period);
  }

  /** Cuts samples away from, or gives them back to, one end (and `more` of them); never beyond what the clip has. */
  cutTo(segment: Draft<Segment>, own: Placed, edge: 'start' | 'end', frames: number, more = 0): void {
    if (segment.loop) return;
    const samples = Math.max(1, Math.round(motionOf(segment, frames) * own.timing.samplesPerFrame) + more);
    segment.in = own.segment.in;
    segment.out = own.segment.out;
    segment.length = null;
    segment.speed = own.timing.speed;
    // What plays backwards ends with its first sample.
    if ((edge === 'end') !== segment.reverse) {
      segment.out = Math.min(requireClip(segment, this.library).frames, segment.in + samples);
    } else segment.in = Math.max(0, segment.out - samples);
  }

  change(id: string, values: SegmentValues): void {
    const lane = this.laneOf(id);
    const segment = this.scene.segments[id]!;
    const before = this.framesOf(segment);
    Object.assign(segment, values);
    const clip = requireClip(segment, this.library);
    segment.in = Math.min(Math.max(0, segment.in), clip.frames - 1);
    segment.out = Math.min(Math.max(segment.in + 1, segment.out), clip.frames);
    if (
      !(segment.repeat > 0) ||
      !(segment.speed > 0) ||
      (segment.length !== null && !(segment.length >= 1))
    ) {
      throw new InputError('edit', 'Repeats, speed and length must be above zero.', {
        place: { path: `segments.${id}` },
      });
    }
    if (segment.length !== null) segment.length = Math.round(segment.length);
    segment.hold = {
      start: Math.max(0, Math.round(segment.hold.start)),
      end: Math.max(0, Math.round(segment.hold.end)),
    };
    segment.marks = segment.marks
      .map((m) => ({ ...m, frame: Math.max(1, Math.round(m.frame)) }))
      .sort((a, b) => a.frame - b.frame)
      .filter((m, i, all) => m.frame !== all[i + 1]?.frame);
    if (segment.speedCurve?.length === 0) segment.speedCurve = null;
    const grown = segment.off ? 0 : this.framesOf(segment) - before;
    for (const other of lane.segments.slice(lane.segments.indexOf(id) + 1))
      this.scene.segments[other]!.start += grown;
    this.heal(lane);
  }

  overlap(id: string, asked: number | 'auto'): void {
    const { lane, placed, i, own } = this.find(id);
    const before = placed[i - 1];
    if (!before) return;
    const frames = asked === 'auto' ? this.plainOverlap(before, own.segment, own.timing.frames) : asked;
    const most = Math.min(
      before.timing.frames - Math.max(before.overlap, 1),
      own.timing.frames - Math.max(placed[i + 1]?.overlap ?? 0, 1),
    );
    const wanted = Math.min(Math.max(0, Math.round(frames)), most);
    this.shift(lane, own, before.end - wanted - own.start);
  }

  /**
   * Trims both sides of a seam so that sample `out` of the outgoing and sample `into` of the incoming clip meet at its
   * match instant, the middle of the overlap. A loop that goes out is repeated to that phase; one that comes in stays.
   */
  match(id: string, out: number, into: number): void {
    const { placed, i, own } = this.find(id);
    const before = placed[i - 1];
    if (!before) return;
    const half = own.overlap / 2;
    const last = out + half * before.timing.samplesPerFrame;
    const first = into - half * own.timing.samplesPerFrame;
    const { segment, timing } = before;
    if (segment.loop) {
      const part = (last - segment.in - segment.phase) / timing.period;
      const phase = part - Math.floor(part);
      const repeat = Math.round(segment.repeat - phase) + phase;
      this.change(segment.id, {
        repeat: Math.max(repeat, phase > 0 ? phase : 1),
        length: null,
        speed: timing.speed,
      });
    } else this.change(segment.id, { out: Math.round(last), length: null, speed: timing.speed });
    if (!own.segment.loop)
      this.change(id, { in: Math.max(0, Math.round(first)), length: null, speed: own.timing.speed });
    this.overlap(id, own.overlap);
  }

  remove(id: string, close: boolean): void {
    const lane = this.laneOf(id);
    const placed = this.layOut(lane);
    const i = placed.findIndex((p) => p.segment.id === id);
    const own = placed[i];
    const after = placed[i + 1];
    lane.segments.splice(lane.segments.indexOf(id), 1);
    delete this.scene.segments[id];
    if (!own) return;
    if (close && after) {
      const before = placed[i - 1];
      const to = before ? before.end - own.overlap + own.gap : own.start;
      this.shift(lane, after, to - after.start);
      this.heal(lane);
    }
  }

  duplicate(id: string, copy: string): void {
    const { lane, placed, i } = this.find(id);
    requireUnusedId(this.scene.segments, copy, 'segment');
    const segment = { ...this.scene.segments[id]!, id: copy };
    this.insertAfter(lane, placed, i, segment, placed[i]!.timing.frames);
  }

  /** Pushes segments on that no longer have room beside their neighbours after a length changed. */
  heal(lane: Draft<Lane>): void {
    const placed = this.layOut(lane);
    let pushed = 0;
    let before = placed[0];
    for (let i = 1; i < placed.length; i++) {
      const own = placed[i]!;
      const start = own.start + pushed;
      const overlap = Math.max(0, before!.end - start);
      const most = Math.min(
        before!.timing.frames - Math.max(before!.overlap, 1),
        Math.max(0, own.timing.frames - 1),
      );
      const further = Math.max(0, overlap - Math.max(0, most));
      pushed += further;
      if (pushed > 0) this.scene.segments[own.segment.id]!.start = own.start + pushed;
      before = { ...own, end: own.end + pushed, overlap: overlap - further };
    }
  }
}
