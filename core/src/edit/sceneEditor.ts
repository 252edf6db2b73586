import { defined } from '../math/defined';
import type { Draft } from 'immer';
import { castDraft, original } from 'immer';
import { InputError } from '../math/errors';
import { parseRate } from '../math/rate';
import type { Lane } from '../scene/lane';
import type { Scene } from '../scene/scene';
import type { Segment } from '../scene/segment';
import type { ClipSource, Placed } from '../timeline/lane';
import { lookup } from './lookup';
import { layOut, requireClip, settleFrames } from '../timeline/lane';
import { inCycle } from '../timeline/timeMap';
import { autoOverlap } from '../timeline/overlap';
import type { Neighbour } from '../timeline/freeFrames';
import { alone, endOf, halfOf, mostOverlap, plainOverlap } from '../timeline/freeFrames';
import type { SegmentTiming } from '../timeline/timing';
import { segmentTiming } from '../timeline/timing';
import type { Seam } from '../scene/seam';
import { withSeam } from '../scene/seam';
import { snapshot } from './snapshot';

/** Whether one segment goes on with the loop of the one before it. */
export const repeatsLoop = (a: Segment, b: Segment): boolean =>
  a.loop && b.loop && a.clip === b.clip && a.in === b.in && a.out === b.out;

/** Frames of motion among the frames that a segment fills. */
export const motionOf = (segment: Segment, frames: number): number =>
  Math.max(1, frames - segment.hold.start - segment.hold.end);

/** A draft of a scene, and what edits of it have in common. */
export class SceneEditor {
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
    const previous = Object.values((original(this.scene) ?? this.scene).lanes).find((l) =>
      l.segments.includes(segment),
    );
    const current = previous && this.scene.lanes[previous.id];
    const lane = current?.segments.includes(segment)
      ? current
      : Object.values(this.scene.lanes).find((l) => l.segments.includes(segment));
    if (!lane) throw new InputError('edit', `Segment ${segment} is on no lane.`);
    return lane;
  }

  /** The segments of a lane that are not switched off, laid out. */
  layOut(lane: Lane): Placed[] {
    // Read from a plain copy: a draft would make one more draft of every segment that is looked at.
    const scene = snapshot<Scene>(this.scene);
    return layOut(scene, defined(scene.lanes[lane.id]), this.library);
  }

  /** A segment with its lane, laid out.
   *
   * @throws InputError `edit` where it does not exist or is switched off
   */
  find(id: string): { lane: Draft<Lane>; placed: Placed[]; i: number; item: Placed } {
    const lane = this.laneOf(id);
    const placed = this.layOut(lane);
    const i = placed.findIndex((p) => p.segment.id === id);
    const item = placed[i];
    if (!item) {
      throw new InputError('edit', `${defined(this.scene.segments[id]).name} is switched off.`, {
        place: { path: `segments.${id}` },
        hint: 'Switch it on in the cue sheet first.',
      });
    }
    return { lane, placed, i, item };
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
    for (const id of lane.segments.slice(index)) defined(this.scene.segments[id]).start += frames;
  }

  /** Puts a segment into the order of its lane. */
  insert(lane: Draft<Lane>, segment: Draft<Segment>): void {
    this.scene.segments[segment.id] = segment;
    const end = lane.segments.at(-1);
    if (end !== undefined && defined(this.scene.segments[end]).start <= segment.start) {
      lane.segments.push(segment.id);
      return;
    }
    // Those that are switched off only wait between others: their own starts say nothing.
    const index = lane.segments.findIndex((id) => {
      const other = defined(this.scene.segments[id]);
      return !other.off && other.start > segment.start;
    });
    lane.segments.splice(index < 0 ? lane.segments.length : index, 0, segment.id);
  }

  /** Puts a segment after `placed[i]` and pushes the rest on. */
  insertAfter(
    lane: Draft<Lane>,
    placed: readonly Placed[],
    i: number,
    segment: Draft<Segment>,
    frames: number,
  ): void {
    const before = defined(placed[i]);
    const after = placed[i + 1];
    segment.start = before.end - this.join(lane, before, segment);
    if (after) {
      const overlap = Math.min(after.overlap, halfOf(frames));
      const gap = after.gap;
      this.shift(lane, after, segment.start + frames - overlap + gap - after.start);
    }
    this.insert(lane, segment);
  }

  /** Closes the gap that `placed[i]`, which is not there any more, has left. */
  closeUp(lane: Draft<Lane>, placed: readonly Placed[], i: number): void {
    const item = defined(placed[i]);
    const [before, after] = [placed[i - 1], placed[i + 1]];
    if (!after) return;
    const to = before ? before.end - item.overlap + item.gap : item.start;
    this.shift(lane, after, to - after.start);
    this.heal(lane);
  }

  /** How a segment joins the one before it: the overlap that suits them, or a cut that settles where there is no room. */
  join(lane: Lane, before: Placed, segment: Draft<Segment>): number {
    if (lane.kind === 'layer') return this.layerOverlap(before, segment);
    const overlap = this.suitedOverlap(before, segment);
    if (overlap === 0 && !repeatsLoop(before.segment, segment)) {
      const frames = settleFrames(parseRate(this.scene.rate));
      segment.seam = castDraft(withSeam(segment.seam as Seam, {}, { kind: 'settle', frames }));
    }
    return overlap;
  }

  /** How much a segment of a layer crossfades with the one before it: by the plain rule, not at all between repeats. */
  private layerOverlap(before: Placed, segment: Segment): number {
    if (repeatsLoop(before.segment, segment)) return 0;
    const frames = this.framesOf(segment);
    const half = Math.min(halfOf(before.timing.frames), halfOf(frames));
    return Math.min(half, plainOverlap(parseRate(this.scene.rate), endOf(before), frames));
  }

  /** The overlap that suits a segment behind another: none between repeats of one loop. */
  suitedOverlap(before: Placed, segment: Segment): number {
    if (repeatsLoop(before.segment, segment)) return 0;
    const clip = requireClip(segment, this.library);
    const rate = parseRate(this.scene.rate);
    const { memory } = this.library;
    const timing = segmentTiming(segment, clip, rate, memory);
    const outgoing = { placed: before, clip: requireClip(before.segment, this.library) };
    return autoOverlap(rate, outgoing, { segment, timing, clip }, memory);
  }

  /** Marks the join before a segment as the user's own, which no choice touches. */
  markOwn(id: string | undefined): void {
    const segment = id === undefined ? undefined : this.scene.segments[id];
    if (!segment) return;
    if (segment.seam.auto) segment.seam.auto = false;
    if (segment.seam.chosen) segment.seam.chosen = null;
  }

  /** Sets the repeats of a loop so that it fills the frames; what it showed at frames that it keeps stays. */
  repeatTo(segment: Draft<Segment>, item: Placed, edge: 'start' | 'end', frames: number): void {
    const { period, samplesPerFrame, speed } = item.timing;
    const samples = motionOf(segment, frames) * samplesPerFrame;
    const more = samples - item.segment.repeat * period;
    segment.length = null;
    segment.speed = speed;
    segment.repeat = samples / period;
    // What plays backwards counts its samples from its end.
    if ((edge === 'start') !== segment.reverse) segment.phase = inCycle(item.segment.phase - more, period);
  }

  /**
   * Cuts samples away from, or gives them back to, one end (and `more` of them); never further beyond what the clip has than
   * the segment, as part of one that repeats without a loop, already is.
   */
  cutTo(segment: Draft<Segment>, item: Placed, edge: 'start' | 'end', frames: number, more = 0): void {
    if (segment.loop) return;
    const samples = Math.max(1, Math.round(motionOf(segment, frames) * item.timing.samplesPerFrame) + more);
    segment.in = item.segment.in;
    segment.out = item.segment.out;
    segment.length = null;
    segment.speed = item.timing.speed;
    // What plays backwards ends with its first sample.
    if ((edge === 'end') !== segment.reverse) {
      const last = Math.max(requireClip(segment, this.library).frames, item.segment.out);
      segment.out = Math.min(last, segment.in + samples);
    } else segment.in = Math.max(0, segment.out - samples);
  }

  /** Pushes segments on that no longer have room beside their neighbours after a length changed. */
  heal(lane: Draft<Lane>): void {
    let before: StretchEnd | null = null;
    for (const { segment, timing, start } of this.layOut(lane)) {
      // What was pushed on pushes what is behind it.
      const pushed: number = before?.pushed ?? 0;
      const wanted = before ? before.end - (start + pushed) : 0;
      const overlap: number = before ? Math.min(wanted, mostOverlap(before, alone(timing.frames))) : 0;
      const by: number = pushed + Math.max(0, wanted - overlap);
      if (by > 0) defined(this.scene.segments[segment.id]).start = start + by;
      before = {
        end: start + by + timing.frames,
        length: timing.frames,
        covered: Math.max(0, overlap),
        pushed: by,
      };
    }
  }

  /**
   * Puts laid-out segments behind each other in an order, each overlapping the one before it, or leaving a gap, by as much as is
   * asked for and possible.
   *
   * @param asked frames shared with the one before, which ends at `end`; below zero a gap
   */
  chain(
    previous: Placed | undefined,
    start: number,
    row: readonly { readonly id: string; readonly frames: number; readonly asked: (end: number) => number }[],
  ): void {
    let before = previous ? { ...endOf(previous), end: previous.end } : null;
    for (const { id, frames, asked } of row) {
      const overlap = before ? Math.min(asked(before.end), mostOverlap(before, alone(frames))) : 0;
      const at = before ? before.end - overlap : start;
      defined(this.scene.segments[id]).start = at;
      before = { end: at + frames, length: frames, covered: Math.max(0, overlap) };
    }
  }

  /** The last segment of a lane that is not switched off, laid out; without a look at all before it. */
  last(lane: Lane): Placed | undefined {
    const rate = parseRate(this.scene.rate);
    const matches: { segment: Segment; timing: SegmentTiming }[] = [];
    for (let i = lane.segments.length - 1; i >= 0 && matches.length < 2; i--) {
      const entry = defined(this.scene.segments[defined(lane.segments[i])]);
      if (entry.off) continue;
      const segment = snapshot(entry);
      const clip = requireClip(segment, this.library);
      matches.push({ segment, timing: segmentTiming(segment, clip, rate, this.library.memory) });
    }
    const [item, before] = matches;
    if (!item) return undefined;
    const shared = before ? before.segment.start + before.timing.frames - item.segment.start : 0;
    return {
      ...item,
      start: item.segment.start,
      end: item.segment.start + item.timing.frames,
      overlap: Math.max(0, shared),
      gap: Math.max(0, -shared),
    };
  }
}

interface StretchEnd extends Neighbour {
  readonly end: number;
  /** Frames by which it was pushed on. */
  readonly pushed: number;
}
