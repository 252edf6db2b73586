import { defined } from '../../math/defined';
import { defineEdit, rule, segmentName } from '../defineEdit';
import { joinGroup } from '../groups';
import { requireUnusedId } from '../lookup';

/** Puts a copy of a segment behind it. */
export interface Duplicate {
  readonly type: 'duplicate';
  readonly segment: string;
  /** What the copy is called. */
  readonly id: string;
}

export const duplicate = defineEdit<Duplicate>({
  type: 'duplicate',
  schema: { segment: rule.id, id: rule.id },
  apply: (editor, { segment: original, id }) => {
    const { lane, placed, i, item } = editor.find(original);
    requireUnusedId(editor.scene.segments, id, 'segment');
    const copy = { ...defined(editor.scene.segments[original]), id, meet: null };
    editor.insertAfter(lane, placed, i, copy, item.timing.frames);
    joinGroup(editor.scene, original, id);
  },
  describe: ({ segment }, scene) => `duplicate of ${segmentName(scene, segment)}`,
});
