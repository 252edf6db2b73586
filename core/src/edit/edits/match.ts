import { defineEdit, rule, segmentName } from '../defineEdit';
import { changeSegment } from './change';
import { setOverlap } from './overlap';

/**
 * Trims both sides of a seam so that sample `out` of the outgoing and sample `in` of the incoming clip meet at its
 * match instant, the middle of the overlap. A loop that goes out is repeated to that phase; one that comes in stays.
 */
export interface Match {
  readonly type: 'match';
  readonly segment: string;
  readonly out: number;
  readonly in: number;
}

export const match = defineEdit<Match>({
  type: 'match',
  schema: { segment: rule.id, out: rule.number, in: rule.number },
  apply: (editor, { segment: id, out, in: into }) => {
    const { placed, i, item } = editor.find(id);
    const before = placed[i - 1];
    if (!before) return;
    const half = item.overlap / 2;
    editor.markOwn(id);
    const last = out + half * before.timing.samplesPerFrame;
    const first = into - half * item.timing.samplesPerFrame;
    const { segment, timing } = before;
    if (segment.loop) {
      const part = (last - segment.in - segment.phase) / timing.period;
      const phase = part - Math.floor(part);
      const repeat = Math.round(segment.repeat - phase) + phase;
      changeSegment(editor, segment.id, {
        repeat: Math.max(repeat, phase > 0 ? phase : 1),
        length: null,
        speed: timing.speed,
      });
    } else changeSegment(editor, segment.id, { out: Math.round(last), length: null, speed: timing.speed });
    if (!item.segment.loop) {
      const values = { in: Math.max(0, Math.round(first)), length: null, speed: item.timing.speed };
      changeSegment(editor, id, values);
    }
    setOverlap(editor, id, item.overlap);
  },
  describe: ({ segment }, scene) => `matching frames before ${segmentName(scene, segment)}`,
});
