import { defined } from '../../math/defined';
import { mostOverlap } from '../../timeline/freeFrames';
import { defineEdit, rule, segmentName } from '../defineEdit';
import { fill, spareFrames } from '../fillFrames';
import { sidesOf } from '../sidesOf';

/** Makes the crossfade before a segment so many frames long out of the frames that both sides do not use, half from each as far as they have them; nothing else moves. */
export interface WidenSeam {
  readonly type: 'widen seam';
  readonly segment: string;
  readonly overlap: number;
}

/** How many frames either side takes of a change in the length of their overlap. */
function sharesOf(delta: number, spareBefore: number, spareOwn: number): [number, number] {
  const half = Math.trunc(delta / 2);
  if (delta < 0) return [half, delta - half];
  const b = Math.min(delta - Math.min(delta - half, spareBefore), spareOwn);
  return [Math.min(delta - b, spareBefore), b];
}

export const widenSeam = defineEdit<WidenSeam>({
  type: 'widen seam',
  schema: { segment: rule.id, overlap: rule.number },
  apply: (editor, { segment: id, overlap }) => {
    const sides = sidesOf(editor, id);
    if (!sides) return;
    const { before, item, tail } = sides;
    editor.markOwn(id);
    const shared = item.overlap - item.gap;
    let delta = Math.max(0, Math.round(overlap)) - shared;
    for (; delta !== 0; delta -= Math.sign(delta)) {
      const [a, b] = sharesOf(delta, spareFrames(editor, before, 'end'), spareFrames(editor, item, 'start'));
      const ends = { length: before.timing.frames + a, covered: before.overlap };
      const starts = { length: item.timing.frames + b, covered: tail };
      // A gap that only becomes smaller is no overlap yet.
      const fits = a + b === delta && Math.max(0, shared + delta) <= mostOverlap(ends, starts);
      if (!fits || !fill(editor, before, 'end', ends.length)) continue;
      if (fill(editor, item, 'start', starts.length)) {
        defined(editor.scene.segments[id]).start = item.start - b;
        return;
      }
      Object.assign(defined(editor.scene.segments[before.segment.id]), before.segment);
    }
  },
  describe: ({ segment }, scene) => `overlap before ${segmentName(scene, segment)}`,
});
