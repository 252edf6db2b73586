import { defined } from '../../math/defined';
import { requireClip } from '../../timeline/lane';
import { inCycle } from '../../timeline/timeMap';
import { defineEdit, rule, segmentName } from '../defineEdit';

/** Shows another part of the clip in the same place: so many samples later, as far as the clip has them. */
export interface Slip {
  readonly type: 'slip';
  readonly segment: string;
  readonly samples: number;
}

export const slip = defineEdit<Slip>({
  type: 'slip',
  schema: { segment: rule.id, samples: rule.number },
  apply: (editor, { segment: id, samples }) => {
    const { item } = editor.find(id);
    const segment = defined(editor.scene.segments[id]);
    const { frames } = requireClip(segment, editor.library);
    if (segment.loop) segment.phase = inCycle(segment.phase + samples, item.timing.period);
    else {
      const by = Math.max(Math.min(samples, Math.max(0, frames - segment.out)), -segment.in);
      segment.in += by;
      segment.out += by;
    }
  },
  describe: ({ segment }, scene) => `slip of ${segmentName(scene, segment)}`,
});
