import { defined } from '../../math/defined';
import { defineEdit, rule, segmentName } from '../defineEdit';
import { lookup } from '../lookup';
import { putBehind } from '../putBehind';

/** Passes a segment over, and closes up behind it; or takes it in again, and pushes the rest on. */
export interface SwitchOff {
  readonly type: 'switch';
  readonly segment: string;
  readonly off: boolean;
}

export const switchOff = defineEdit<SwitchOff>({
  type: 'switch',
  schema: { segment: rule.id, off: rule.flag },
  apply: (editor, { segment: id, off }) => {
    const segment = lookup(editor.scene.segments, id, 'segment');
    if (segment.off === off) return;
    const lane = editor.laneOf(id);
    if (off) {
      const { placed, i } = editor.find(id);
      const after = placed[i + 1];
      segment.off = true;
      editor.closeUp(lane, placed, i);
      // It waits where the next one begins now, so that it keeps its place in the order.
      if (after)
        segment.start = Math.min(segment.start, defined(editor.scene.segments[after.segment.id]).start);
      return;
    }
    const placed = editor.layOut(lane);
    const order = lane.segments.indexOf(id);
    const i = placed.findLastIndex((p) => lane.segments.indexOf(p.segment.id) < order);
    segment.off = false;
    lane.segments.splice(order, 1);
    putBehind(editor, lane, placed, i, segment);
  },
  describe: ({ segment, off }, scene) =>
    `${off ? 'disabling' : 'enabling'} of ${segmentName(scene, segment)}`,
});
