import { defined } from '../math/defined';
import type { FrameLimits } from '../timeline/freeFrames';
import { endLimits, startLimits } from '../timeline/freeFrames';
import type { Placed } from '../timeline/lane';
import { requireClip } from '../timeline/lane';
import type { SceneEditor } from './sceneEditor';
import { motionOf } from './sceneEditor';

/** Where an edge of `placed[i]` may be while everything else stays. */
export const edgeLimits = (placed: readonly Placed[], i: number, edge: 'start' | 'end'): FrameLimits =>
  edge === 'end' ? endLimits(placed, i) : startLimits(placed, i);

/** The frames that a segment fills when one of its edges is brought to a frame, as near as its neighbours allow. */
export function framesTo(editor: SceneEditor, id: string, edge: 'start' | 'end', frame: number): number {
  const { placed, i, item } = editor.find(id);
  const limits = edgeLimits(placed, i, edge);
  const at = Math.min(Math.max(Math.round(frame), limits.from), limits.to);
  return edge === 'end' ? at - item.start : item.end - at;
}

/** Frames that a segment could fill more at one end with samples that its clip has. */
export function spareFrames(editor: SceneEditor, { segment, timing }: Placed, edge: 'start' | 'end'): number {
  if (segment.loop) return Infinity;
  const { frames } = requireClip(segment, editor.library);
  const samples = (edge === 'end') !== segment.reverse ? frames - segment.out : segment.in;
  return Math.max(0, Math.floor(samples / timing.samplesPerFrame + 1e-9));
}

/**
 * Sets how many frames a segment fills by taking samples from one end or giving them back; to the frame, with a part of a
 * sample where whole ones do not come out. Gives false, and changes nothing, where the clip does not have them.
 */
export function fill(editor: SceneEditor, item: Placed, edge: 'start' | 'end', frames: number): boolean {
  const segment = defined(editor.scene.segments[item.segment.id]);
  if (frames === item.timing.frames) return true;
  if (frames - segment.hold.start - segment.hold.end < 1) return false;
  if (segment.loop) editor.repeatTo(segment, item, edge, frames);
  else editor.cutTo(segment, item, edge, frames);
  if (editor.framesOf(segment) === frames) return true;
  if (!segment.loop) {
    const samples = motionOf(segment, frames) * item.timing.samplesPerFrame;
    const clip = requireClip(segment, editor.library);
    if ((edge === 'end') !== segment.reverse) segment.out = item.segment.in + samples;
    else segment.in = item.segment.out - samples;
    const last = Math.max(clip.frames, item.segment.out);
    if (segment.in >= 0 && segment.out <= last && editor.framesOf(segment) === frames) return true;
  }
  Object.assign(segment, item.segment);
  return false;
}
