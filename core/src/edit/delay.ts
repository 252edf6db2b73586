import { defined } from '../math/defined';
import type { Draft } from 'immer';
import type { Lane } from '../scene/lane';
import { leastLength } from '../timeline/freeFrames';
import type { Placed } from '../timeline/lane';
import type { SceneEditor } from './sceneEditor';

/**
 * Has a segment start so many frames later, or earlier below zero, with all behind it on its lane; as near to that as can be. What plays
 * before it on a body lane goes on for as long: a loop repeats, anything else holds its last pose, so that the seam stays what it is. For
 * an earlier start gaps close first, then what is before it becomes shorter.
 */
export function delaySegment(editor: SceneEditor, id: string, frames: number): void {
  const { lane, placed, i, item } = editor.find(id);
  const before = placed[i - 1];
  if (!before || (lane.kind === 'layer' && frames > 0)) {
    editor.shift(lane, item, Math.max(frames, before ? -Infinity : -item.start));
    return;
  }
  if (frames > 0) {
    if (item.gap === 0) lengthen(editor, before, frames);
    editor.shift(lane, item, frames);
    return;
  }
  const closed = Math.min(item.gap, -frames);
  const more = -frames - closed;
  const given = more > 0 ? shorten(editor, before, item.overlap, more) : 0;
  editor.shift(lane, item, -closed - given);
}

/**
 * Has a segment last so many frames longer, or shorter below zero, and what is joined to its end start as much later; as near to that as
 * can be.
 */
export function prolongSegment(editor: SceneEditor, id: string, frames: number): void {
  const { lane, placed, i, item } = editor.find(id);
  const next = placed[i + 1];
  if (frames > 0) lengthen(editor, item, frames);
  const shared = next?.overlap ?? 0;
  const by = frames > 0 ? frames : -shorten(editor, item, shared, -frames);
  if (next?.gap === 0) editor.shift(lane, next, by);
  else if (next) closeGap(editor, lane, next, by);
}

/** What stands apart behind something that became longer is pushed on by what the gap cannot take. */
function closeGap(editor: SceneEditor, lane: Draft<Lane>, next: Placed, by: number): void {
  if (by > next.gap) editor.shift(lane, next, by - next.gap);
}

function lengthen(editor: SceneEditor, item: Placed, frames: number): void {
  const segment = defined(editor.scene.segments[item.segment.id]);
  if (segment.loop) {
    const before = { ...segment };
    const wanted = item.timing.frames + frames;
    editor.repeatTo(segment, item, 'end', wanted);
    if (editor.framesOf(segment) === wanted) return;
    Object.assign(segment, before);
  }
  segment.hold = { ...segment.hold, end: segment.hold.end + frames };
}

/** Makes a segment shorter at its end; gives by how many frames it could. */
function shorten(editor: SceneEditor, item: Placed, overlap: number, frames: number): number {
  const segment = defined(editor.scene.segments[item.segment.id]);
  const least = leastLength(item.overlap + overlap);
  const all = item.timing.frames;
  const wanted = Math.max(least, all - frames);
  const held = Math.min(segment.hold.end, all - wanted);
  segment.hold = { ...segment.hold, end: segment.hold.end - held };
  if (all - held > wanted) {
    const before = { ...segment };
    const { timing } = item;
    const rest = { ...item, segment: { ...item.segment, hold: { ...segment.hold } }, timing };
    if (segment.loop) editor.repeatTo(segment, rest, 'end', wanted);
    else editor.cutTo(segment, rest, 'end', wanted);
    const settled = editor.framesOf(segment);
    if (settled < least || settled > all - held) Object.assign(segment, before);
  }
  return all - editor.framesOf(segment);
}
