import { lookup } from './lookup';
import type { LaneEditor } from './laneEditor';

/** A stretch of frames on a lane. */
interface Stretch {
  readonly id: string;
  readonly start: number;
  readonly end: number;
}

/** Whether stretches, in order of their starts, can stand on one lane: at most two at any frame, none hidden by another. */
export function canStand(row: readonly Omit<Stretch, 'id'>[]): boolean {
  for (let i = 0; i < row.length; i++) {
    const own = row[i]!;
    if (own.start < 0) return false;
    const next = row[i + 1];
    if (!next) continue;
    if (next.start <= own.start || next.end <= own.end) return false;
    const after = row[i + 2];
    if (after && after.start < own.end) return false;
  }
  return true;
}

/**
 * Moves segments, of one lane or of several, by so many frames as one; as near to that as all of them can stand. Where all
 * of them are of one lane they can be moved to another.
 */
export function moveSeveral(editor: LaneEditor, ids: readonly string[], frames: number, to?: string): void {
  const { scene } = editor;
  const moving = new Set(ids);
  const lanes = [...new Set(ids.map((id) => editor.laneOf(id)))];
  const rows = lanes.map((lane) => {
    const target = to !== undefined && lanes.length === 1 ? lookup(scene.lanes, to, 'lane') : lane;
    const placed = editor.layOut(lane).filter((p) => moving.has(p.segment.id));
    const still = editor.layOut(target).filter((p) => !moving.has(p.segment.id));
    const stretch = (p: { segment: { id: string }; start: number; end: number }): Stretch => ({
      id: p.segment.id,
      start: p.start,
      end: p.end,
    });
    return { lane, target, moved: placed.map(stretch), still: still.map(stretch) };
  });
  const fits = (by: number): boolean =>
    rows.every(({ moved, still }) =>
      canStand(
        [...still, ...moved.map((m) => ({ ...m, start: m.start + by, end: m.end + by }))].sort(
          (a, b) => a.start - b.start,
        ),
      ),
    );
  const wanted = Math.round(frames);
  const by = nearest(wanted, fits, rows.some((r) => r.lane !== r.target) ? 100_000 : Math.abs(wanted));
  if (by === null) return;
  for (const { lane, target, moved } of rows) {
    const ids = new Set(moved.map((m) => m.id));
    for (const { id, start } of moved) scene.segments[id]!.start = start + by;
    if (lane !== target) lane.segments = lane.segments.filter((id) => !ids.has(id));
    const rest = target.segments.filter((id) => !ids.has(id));
    target.segments = [...rest, ...moved.map((m) => m.id)];
    target.segments.sort((a, b) => scene.segments[a]!.start - scene.segments[b]!.start);
  }
}

/** The number nearest to the wanted one for which something holds, null where there is none so near. */
function nearest(wanted: number, holds: (n: number) => boolean, within: number): number | null {
  for (let d = 0; d <= within; d++) {
    // Towards where it stood first: that way there is room.
    const back = wanted - Math.sign(wanted || 1) * d;
    if (holds(back)) return back;
    if (holds(wanted + Math.sign(wanted || 1) * d)) return wanted + Math.sign(wanted || 1) * d;
  }
  return null;
}
