import { defined } from '../../math/defined';
import { defineEdit, rule, segmentName } from '../defineEdit';
import { framesTo } from '../fillFrames';

/** Plays a segment slower or faster so that an edge comes to a frame. */
export interface Stretch {
  readonly type: 'stretch';
  readonly segment: string;
  readonly edge: 'start' | 'end';
  readonly frame: number;
}

export const stretch = defineEdit<Stretch>({
  type: 'stretch',
  schema: { segment: rule.id, edge: rule.edge, frame: rule.number },
  apply: (editor, { segment: id, edge, frame }) => {
    const { item } = editor.find(id);
    const frames = framesTo(editor, id, edge, frame);
    const segment = defined(editor.scene.segments[id]);
    const held = segment.hold.start + segment.hold.end;
    if (frames === item.timing.frames || frames - held < 1) return;
    segment.length = frames - held;
    if (edge === 'start') segment.start = item.end - frames;
  },
  describe: ({ segment }, scene) => `stretch of ${segmentName(scene, segment)}`,
});
