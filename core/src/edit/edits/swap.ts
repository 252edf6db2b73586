import { defined } from '../../math/defined';
import { castDraft } from 'immer';
import type { Placed } from '../../timeline/lane';
import { defineEdit, rule, segmentName } from '../defineEdit';

/** Changes the places of a segment and the one after it; seams and overlaps stay where they are. */
export interface Swap {
  readonly type: 'swap';
  readonly segment: string;
}

export const swap = defineEdit<Swap>({
  type: 'swap',
  schema: { segment: rule.id },
  apply: (editor, { segment: id }) => {
    const { lane, placed, i, item } = editor.find(id);
    const next = placed[i + 1];
    if (!next) return;
    const { segments } = editor.scene;
    defined(segments[item.segment.id]).seam = castDraft(next.segment.seam);
    defined(segments[next.segment.id]).seam = castDraft(item.segment.seam);
    const [a, b] = [lane.segments.indexOf(item.segment.id), lane.segments.indexOf(next.segment.id)];
    [lane.segments[a], lane.segments[b]] = [next.segment.id, item.segment.id];
    const link = (p: Placed, at: Placed) => ({
      id: p.segment.id,
      frames: p.timing.frames,
      asked: () => at.overlap - at.gap,
    });
    const rest = placed.slice(i + 2).map((p) => link(p, p));
    editor.chain(placed[i - 1], item.start, [link(next, item), link(item, next), ...rest]);
  },
  describe: ({ segment }, scene) => `swap of ${segmentName(scene, segment)} and the next`,
});
