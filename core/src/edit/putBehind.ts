import type { Draft } from 'immer';
import type { Lane } from '../scene/lane';
import type { Segment } from '../scene/segment';
import { parseRate } from '../math/rate';
import { alone, mostOverlap } from '../timeline/freeFrames';
import type { Placed } from '../timeline/lane';
import { requireClip } from '../timeline/lane';
import { segmentTiming } from '../timeline/timing';
import type { SceneEditor } from './sceneEditor';

/** Puts a segment behind `placed[i]`, or before all of them where i is -1, and pushes the rest on. */
export function putBehind(
  editor: SceneEditor,
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
    const most = mostOverlap(alone(frames), alone(first.timing.frames));
    const overlap = Math.min(editor.suitedOverlap(atStart(editor, segment), first.segment), most);
    editor.shift(lane, first, frames - overlap);
  }
  editor.insert(lane, segment);
  editor.heal(lane);
}

/** A segment laid out by itself. */
function atStart({ scene, library }: SceneEditor, segment: Segment): Placed {
  const clip = requireClip(segment, library);
  const timing = segmentTiming(segment, clip, parseRate(scene.rate), library.memory);
  return { segment, timing, start: 0, end: timing.frames, overlap: 0, gap: 0 };
}
