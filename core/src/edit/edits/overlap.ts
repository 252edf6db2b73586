import Joi from 'joi';
import { alone, endOf, mostOverlap, mostOverlapAt } from '../../timeline/freeFrames';
import { defineEdit, rule, segmentName } from '../defineEdit';
import type { SceneEditor } from '../sceneEditor';

/** Moves a segment, and all behind it, so that it shares so many frames with the one before. */
export interface Overlap {
  readonly type: 'overlap';
  readonly segment: string;
  /** Frames, or as many as the two motions ask for. */
  readonly frames: number | 'auto';
}

export const overlap = defineEdit<Overlap>({
  type: 'overlap',
  schema: { segment: rule.id, frames: Joi.alternatives(Joi.number(), Joi.valid('auto')).required() },
  apply: (editor, { segment, frames }) => {
    editor.markOwn(segment);
    setOverlap(editor, segment, frames);
  },
  describe: ({ segment }, scene) => `overlap before ${segmentName(scene, segment)}`,
});

export function setOverlap(editor: SceneEditor, id: string, asked: number | 'auto'): void {
  const { lane, placed, i, item } = editor.find(id);
  const before = placed[i - 1];
  if (!before) return;
  const frames =
    asked === 'auto'
      ? Math.min(
          editor.suitedOverlap(before, item.segment),
          mostOverlap(endOf(before), alone(item.timing.frames)),
        )
      : asked;
  const wanted = Math.min(Math.max(0, Math.round(frames)), mostOverlapAt(placed, i));
  editor.shift(lane, item, before.end - wanted - item.start);
}
