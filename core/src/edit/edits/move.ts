import { defined } from '../../math/defined';
import { nearestStart } from '../../timeline/freeFrames';
import { defineEdit, rule, segmentName } from '../defineEdit';
import { lookup } from '../lookup';

/** Moves a segment to a frame, as near as there is room. */
export interface Move {
  readonly type: 'move';
  readonly segment: string;
  readonly start: number;
  /** The lane that it goes to, where that is another. */
  readonly lane?: string;
}

export const move = defineEdit<Move>({
  type: 'move',
  schema: { segment: rule.id, start: rule.number, lane: rule.id.optional() },
  apply: (editor, { segment: id, start, lane: to }) => {
    const from = editor.laneOf(id);
    const lane = to === undefined ? from : lookup(editor.scene.lanes, to, 'lane');
    const segment = defined(editor.scene.segments[id]);
    from.segments = from.segments.filter((s) => s !== id);
    const frames = editor.framesOf(segment);
    segment.start = nearestStart(editor.layOut(lane), frames, Math.max(0, Math.round(start)));
    editor.insert(lane, segment);
  },
  describe: ({ segment }, scene) => `move of ${segmentName(scene, segment)}`,
});
