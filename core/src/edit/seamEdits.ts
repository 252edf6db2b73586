import { castDraft } from 'immer';
import type { Placed } from '../timeline/lane';
import { requireClip } from '../timeline/lane';
import { fill } from './cutEdits';
import type { LaneEditor } from './laneEditor';
import type { Stretched } from '../timeline/freeFrames';
import { maxOverlap } from '../timeline/freeFrames';

/** Frames that a segment could fill more at one end with samples that its clip has. */
function spare({ segment, timing }: Placed, edge: 'start' | 'end', editor: LaneEditor): number {
  if (segment.loop) return Infinity;
  const { frames } = requireClip(segment, editor.library);
  const samples = (edge === 'end') !== segment.reverse ? frames - segment.out : segment.in;
  return Math.floor(samples / timing.samplesPerFrame + 1e-9);
}

/** Frames that a segment can lose before its overlaps, so many frames long together, take all of it. */
const excess = ({ timing, segment }: Placed, overlaps: number): number =>
  timing.frames - Math.max(1, overlaps + 1, segment.hold.start + segment.hold.end + 1);

/** Both sides of the seam before a segment; null before the first of its lane. */
function sides(editor: LaneEditor, id: string): { before: Placed; own: Placed; tail: number } | null {
  const { placed, i, own } = editor.find(id);
  const before = placed[i - 1];
  return before ? { before, own, tail: placed[i + 1]?.overlap ?? 0 } : null;
}

/**
 * Moves the seam before a segment: the outgoing one grows as the incoming one shrinks, and nothing else changes. As far
 * as both clips have the samples.
 */
export function shiftSeam(editor: LaneEditor, id: string, frames: number): void {
  const found = sides(editor, id);
  if (!found) return;
  const { before, own, tail } = found;
  const later = Math.min(spare(before, 'end', editor), excess(own, own.overlap + tail));
  const earlier = Math.min(excess(before, before.overlap + own.overlap), spare(own, 'start', editor));
  let by = Math.min(Math.max(Math.round(frames), -Math.max(0, earlier)), Math.max(0, later));
  for (; by !== 0; by -= Math.sign(by)) {
    if (!fill(editor, before, 'end', before.timing.frames + by)) continue;
    if (fill(editor, own, 'start', own.timing.frames - by)) break;
    Object.assign(editor.scene.segments[before.segment.id]!, before.segment);
  }
  editor.scene.segments[id]!.start = own.start + by;
}

/**
 * Makes the crossfade before a segment so many frames long out of the frames that both sides do not use, half from each
 * as far as they have them; nothing else moves.
 */
export function widenSeam(editor: LaneEditor, id: string, overlap: number): void {
  const found = sides(editor, id);
  if (!found) return;
  const { before, own, tail } = found;
  let delta = Math.max(0, Math.round(overlap)) - (own.overlap - own.gap);
  for (; delta !== 0; delta -= Math.sign(delta)) {
    const overlapped = Math.max(0, own.overlap - own.gap + delta);
    const [a, b] = shares(delta, spare(before, 'end', editor), spare(own, 'start', editor));
    const fits =
      a + b === delta &&
      before.timing.frames + a > before.overlap + overlapped &&
      own.timing.frames + b > tail + overlapped &&
      own.start - b > before.start &&
      own.end > before.end + a;
    if (!fits || !fill(editor, before, 'end', before.timing.frames + a)) continue;
    if (fill(editor, own, 'start', own.timing.frames + b)) {
      editor.scene.segments[id]!.start = own.start - b;
      return;
    }
    Object.assign(editor.scene.segments[before.segment.id]!, before.segment);
  }
}

/** How many frames either side takes of a change in the length of their overlap. */
function shares(delta: number, spareBefore: number, spareOwn: number): [number, number] {
  const half = Math.trunc(delta / 2);
  if (delta < 0) return [half, delta - half];
  const b = Math.min(delta - Math.min(delta - half, spareBefore), spareOwn);
  return [Math.min(delta - b, spareBefore), b];
}

/** Changes the places of a segment and the one after it; seams and overlaps stay where they are. */
export function swapWithNext(editor: LaneEditor, id: string): void {
  const { lane, placed, i, own } = editor.find(id);
  const next = placed[i + 1];
  if (!next) return;
  const { segments } = editor.scene;
  segments[own.segment.id]!.seam = castDraft(next.segment.seam);
  segments[next.segment.id]!.seam = castDraft(own.segment.seam);
  const [a, b] = [lane.segments.indexOf(own.segment.id), lane.segments.indexOf(next.segment.id)];
  [lane.segments[a], lane.segments[b]] = [next.segment.id, own.segment.id];
  const signed = (p: Placed): number => p.overlap - p.gap;
  const rest = placed.slice(i + 2);
  const previous = placed[i - 1];
  let before: Stretched | null = previous
    ? { end: previous.end, length: previous.timing.frames, covered: previous.overlap }
    : null;
  const row: readonly (readonly [Placed, number])[] = [
    [next, signed(own)],
    [own, signed(next)],
    ...rest.map((p) => [p, signed(p)] as const),
  ];
  for (const [p, asked] of row) {
    const { frames } = p.timing;
    const k: number = before ? Math.min(asked, maxOverlap(before, frames)) : 0;
    const start: number = before ? before.end - k : own.start;
    segments[p.segment.id]!.start = start;
    before = { end: start + frames, length: frames, covered: Math.max(0, k) };
  }
}
