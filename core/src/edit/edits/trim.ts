import { defined } from '../../math/defined';
import { edgeLimits } from '../fillFrames';
import { defineEdit, rule, segmentName } from '../defineEdit';

/** Brings an edge of a segment to a frame by taking samples from it or giving them back. */
export interface Trim {
  readonly type: 'trim';
  readonly segment: string;
  readonly edge: 'start' | 'end';
  readonly frame: number;
}

export const trim = defineEdit<Trim>({
  type: 'trim',
  schema: { segment: rule.id, edge: rule.edge, frame: rule.number },
  apply: (editor, { segment: id, edge, frame }) => {
    const { placed, i, item } = editor.find(id);
    const limits = edgeLimits(placed, i, edge);
    const at = Math.min(Math.max(Math.round(frame), limits.from), limits.to);
    const frames = edge === 'end' ? at - item.start : item.end - at;
    if (frames === item.timing.frames) return;
    const next = placed[i + 1];
    if (edge === 'start') editor.markOwn(id);
    else if (next?.gap === 0) editor.markOwn(next.segment.id);
    const segment = defined(editor.scene.segments[id]);
    const before = { ...item.segment };
    if (segment.loop) editor.repeatTo(segment, item, edge, frames);
    else editor.cutTo(segment, item, edge, frames);
    const [least, most] =
      edge === 'end'
        ? [limits.from - item.start, limits.to - item.start]
        : [item.end - limits.to, item.end - limits.from];
    // Whole samples of a slowed clip are several frames long: the nearest may lie just outside the limits.
    const filled = editor.framesOf(segment);
    if (filled < least) editor.cutTo(segment, item, edge, frames, 1);
    if (filled > most) editor.cutTo(segment, item, edge, frames, -1);
    const settled = editor.framesOf(segment);
    if (settled < least || settled > most) Object.assign(segment, before);
    if (edge === 'start') segment.start = item.end - editor.framesOf(segment);
  },
  describe: ({ segment }, scene) => `trim of ${segmentName(scene, segment)}`,
});
