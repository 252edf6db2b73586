import { defined } from '../../math/defined';
import type { Placed } from '../../timeline/lane';
import { leastLength } from '../../timeline/freeFrames';
import { defineEdit, rule, segmentName } from '../defineEdit';
import { fill, spareFrames } from '../fillFrames';
import { sidesOf } from '../sidesOf';

/** Moves the seam before a segment: the outgoing one grows as the incoming one shrinks, and nothing else changes. As far as both clips have the samples. */
export interface ShiftSeam {
  readonly type: 'shift seam';
  readonly segment: string;
  readonly frames: number;
}

/** Frames that a segment can lose before its overlaps, so many frames long together, or its held ends take all of it. */
const excess = ({ timing, segment }: Placed, overlaps: number): number =>
  timing.frames - Math.max(leastLength(overlaps), segment.hold.start + segment.hold.end + 1);

export const shiftSeam = defineEdit<ShiftSeam>({
  type: 'shift seam',
  schema: { segment: rule.id, frames: rule.number },
  apply: (editor, { segment: id, frames }) => {
    const sides = sidesOf(editor, id);
    if (!sides) return;
    const { before, item, tail } = sides;
    editor.markOwn(id);
    const later = Math.min(spareFrames(editor, before, 'end'), excess(item, item.overlap + tail));
    const earlier = Math.min(
      excess(before, before.overlap + item.overlap),
      spareFrames(editor, item, 'start'),
    );
    let by = Math.min(Math.max(Math.round(frames), -Math.max(0, earlier)), Math.max(0, later));
    for (; by !== 0; by -= Math.sign(by)) {
      if (!fill(editor, before, 'end', before.timing.frames + by)) continue;
      if (fill(editor, item, 'start', item.timing.frames - by)) break;
      Object.assign(defined(editor.scene.segments[before.segment.id]), before.segment);
    }
    defined(editor.scene.segments[id]).start = item.start + by;
  },
  describe: ({ segment }, scene) => `move of the seam before ${segmentName(scene, segment)}`,
});
