import type { Draft } from 'immer';
import { current } from 'immer';
import { InputError } from '../math/errors';
import { parseRate } from '../math/rate';
import type { Lane, Segment } from '../scene/scene';
import { lookup } from './lookup';
import type { Placed } from '../timeline/lane';
import { requireClip } from '../timeline/lane';
import type { LaneEditor } from './laneEditor';
import { segmentTiming } from '../timeline/timing';

/** Passes a segment over, and closes up behind it; or takes it in again, and pushes the rest on. */
export function switchOff(editor: LaneEditor, id: string, off: boolean): void {
  const segment = lookup(editor.scene.segments, id, 'segment');
  if (segment.off === off) return;
  const lane = editor.laneOf(id);
  if (off) {
    const { placed, i, own } = editor.find(id);
    const before = placed[i - 1];
    const after = placed[i + 1];
    segment.off = true;
    if (after)
      editor.shift(lane, after, (before ? before.end - own.overlap + own.gap : own.start) - after.start);
    // It waits where the next one begins now, so that it keeps its place in the order.
    if (after) segment.start = Math.min(segment.start, editor.scene.segments[after.segment.id]!.start);
    editor.heal(lane);
    return;
  }
  const placed = editor.layOut(lane);
  const order = lane.segments.indexOf(id);
  const i = placed.findLastIndex((p) => lane.segments.indexOf(p.segment.id) < order);
  segment.off = false;
  lane.segments.splice(order, 1);
  putBehind(editor, lane, placed, i, segment);
}

/** Puts a segment behind `placed[i]`, or before all of them where i is -1, and pushes the rest on. */
function putBehind(
  editor: LaneEditor,
  lane: Draft<Lane>,
  placed: readonly Placed[],
  i: number,
  segment: Draft<Segment>,
): void {
  const frames = editor.framesOf(segment);
  if (i >= 0) return editor.insertAfter(lane, placed, i, segment, frames);
  const first = placed[0];
  if (first) {
    segment.start = first.start;
    const overlap = Math.min(plainOverlapAfter(editor, segment, first), first.timing.frames - 1);
    editor.shift(lane, first, frames - overlap);
  }
  editor.insert(lane, segment);
  editor.heal(lane);
}

/** Whether a segment stands right before another one, or at the end where that is null. */
const isThere = (order: readonly string[], id: string, before: string | null): boolean => {
  const next = order[order.indexOf(id) + 1];
  return next === (before ?? undefined);
};

/** Takes a segment out, closes up behind it, and puts it before another one of a lane, or at its end. */
export function reorder(editor: LaneEditor, id: string, laneId: string, before: string | null): void {
  if (before === id) return;
  const from = editor.laneOf(id);
  if (from.id === laneId && isThere(from.segments, id, before)) return;
  const lane = lookup(editor.scene.lanes, laneId, 'lane');
  if (before !== null && !lane.segments.includes(before))
    throw new InputError('edit', `Segment ${before} is not on lane ${laneId}.`);
  const segment = { ...current(editor.scene.segments[id]!) } as Draft<Segment>;
  if (segment.off) from.segments = from.segments.filter((s) => s !== id);
  else editor.remove(id, true);
  const at = before === null ? lane.segments.length : lane.segments.indexOf(before);
  if (segment.off) {
    const next = lane.segments[at];
    segment.start = next ? editor.scene.segments[next]!.start : segment.start;
    editor.scene.segments[id] = segment;
    lane.segments.splice(at, 0, id);
    orderByStart(editor, lane);
    return;
  }
  const placed = editor.layOut(lane);
  const i = placed.findLastIndex((p) => lane.segments.indexOf(p.segment.id) < at);
  putBehind(editor, lane, placed, i, segment);
}

/** Keeps the order of a lane that of its starts. */
function orderByStart(editor: LaneEditor, lane: Draft<Lane>): void {
  const start = (s: string): number => editor.scene.segments[s]!.start;
  lane.segments = lane.segments
    .map((s, i) => ({ s, i }))
    .sort((a, b) => start(a.s) - start(b.s) || a.i - b.i)
    .map(({ s }) => s);
}

/** The overlap that a laid-out segment gets behind one that comes before it. */
function plainOverlapAfter(editor: LaneEditor, segment: Segment, after: Placed): number {
  const clip = requireClip(segment, editor.library);
  const timing = segmentTiming(segment, clip, parseRate(editor.scene.rate), editor.library.memory);
  const before = { segment, timing, start: 0, end: timing.frames, overlap: 0, gap: 0 };
  return editor.plainOverlap(before, after.segment, after.timing.frames);
}
