import { defined } from '../../math/defined';
import { parseRate } from '../../math/rate';
import { requireClip } from '../../timeline/lane';
import { segmentTiming } from '../../timeline/timing';
import { defineEdit, rule, segmentName } from '../defineEdit';
import { framesTo } from '../fillFrames';

/** Plays a segment as often as it takes for an edge to come to a frame; it goes on from its end to its start. */
export interface Repeat {
  readonly type: 'repeat';
  readonly segment: string;
  readonly edge: 'start' | 'end';
  readonly frame: number;
}

export const repeat = defineEdit<Repeat>({
  type: 'repeat',
  schema: { segment: rule.id, edge: rule.edge, frame: rule.number },
  apply: (editor, { segment: id, edge, frame }) => {
    const { item } = editor.find(id);
    const frames = framesTo(editor, id, edge, frame);
    if (frames === item.timing.frames) return;
    const segment = defined(editor.scene.segments[id]);
    const before = { ...item.segment };
    segment.loop = true;
    const { library, scene } = editor;
    const timing = segmentTiming(
      segment,
      requireClip(segment, library),
      parseRate(scene.rate),
      library.memory,
    );
    editor.repeatTo(segment, { ...item, segment: { ...item.segment, loop: true }, timing }, edge, frames);
    if (editor.framesOf(segment) !== frames) Object.assign(segment, before);
    else if (edge === 'start') segment.start = item.end - frames;
  },
  describe: ({ segment }, scene) => `repeats of ${segmentName(scene, segment)}`,
});
