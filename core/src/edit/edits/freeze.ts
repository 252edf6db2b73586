import { defined } from '../../math/defined';
import { leastLength, startOf } from '../../timeline/freeFrames';
import { defineEdit, rule, segmentName } from '../defineEdit';
import { cutAt } from './cut';

/** Holds what is shown at a frame for so many frames more, and pushes the rest on. */
export interface Freeze {
  readonly type: 'freeze';
  readonly segment: string;
  readonly frame: number;
  readonly frames: number;
  /** What the part behind the frame is called. */
  readonly id: string;
}

export const freeze = defineEdit<Freeze>({
  type: 'freeze',
  schema: { segment: rule.id, frame: rule.number, frames: rule.number, id: rule.id },
  apply: (editor, { segment: name, frame, frames, id }) => {
    const { lane, placed, i, item } = editor.find(name);
    const next = Math.round(frame) + 1;
    if (next < item.end - leastLength(startOf(placed, i).covered)) cutAt(editor, name, next, id);
    const segment = defined(editor.scene.segments[name]);
    const added = Math.max(1, Math.round(frames));
    const index = lane.segments.indexOf(name);
    segment.hold = { start: segment.hold.start, end: segment.hold.end + added };
    for (const other of lane.segments.slice(index + 1)) defined(editor.scene.segments[other]).start += added;
  },
  describe: ({ segment }, scene) => `freeze of ${segmentName(scene, segment)}`,
});
