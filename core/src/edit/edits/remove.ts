import { defineEdit, rule, segmentName } from '../defineEdit';
import type { SceneEditor } from '../sceneEditor';

/** Removes a segment, and closes the gap that it leaves if that is asked for. */
export interface Remove {
  readonly type: 'remove';
  readonly segment: string;
  readonly close: boolean;
}

export const remove = defineEdit<Remove>({
  type: 'remove',
  schema: { segment: rule.id, close: rule.flag },
  apply: (editor, { segment, close }) => removeSegment(editor, segment, close),
  describe: ({ segment }, scene) => `removal of ${segmentName(scene, segment)}`,
});

export function removeSegment(editor: SceneEditor, id: string, close: boolean): void {
  const lane = editor.laneOf(id);
  const placed = editor.layOut(lane);
  const i = placed.findIndex((p) => p.segment.id === id);
  lane.segments.splice(lane.segments.indexOf(id), 1);
  delete editor.scene.segments[id];
  if (close && i >= 0) editor.closeUp(lane, placed, i);
}
