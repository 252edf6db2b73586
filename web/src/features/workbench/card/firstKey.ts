import type { Edit, LayerLane } from '@warper/core';
import { keyListsOf } from '@warper/core';

/** Seconds before and after a first key in which its layer is in force, and in which it comes and goes. */
const FIRST = { before: 0.5, after: 1.5, fade: 0.3 };

/**
 * An edit that keys a pose; where it is the first one of a layer that has nothing yet, the layer gets a span around it, so that one
 * key does not bend the whole scene.
 */
export function withFirstSpan(layer: LayerLane, frame: number, framesPerSecond: number, edit: Edit): Edit {
  const isBare =
    layer.span === null &&
    layer.segments.length === 0 &&
    layer.look === null &&
    layer.contacts.length === 0 &&
    keyListsOf(layer).length === 0;
  if (!isBare) return edit;
  const frames = (seconds: number): number => Math.round(seconds * framesPerSecond);
  const fade = frames(FIRST.fade);
  const span = {
    start: frame - frames(FIRST.before),
    end: frame + frames(FIRST.after),
    fadeIn: fade,
    fadeOut: fade,
  };
  const label = edit.type === 'several' ? edit.label : 'key';
  return {
    type: 'several',
    label,
    edits: [{ type: 'change layer', layer: layer.id, values: { span } }, edit],
  };
}
