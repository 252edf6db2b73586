import { defined } from '../../math/defined';
import { InputError } from '../../math/errors';
import { calledFields } from '../../scene/fields';
import type { Segment } from '../../scene/segment';
import { SEGMENT_FIELDS, segmentSchema } from '../../scene/segment';
import { requireClip } from '../../timeline/lane';
import { defineEdit, requireValid, rule, segmentName, someOf } from '../defineEdit';
import { requireTarget } from '../lookup';
import type { SceneEditor } from '../sceneEditor';
import { snapshot } from '../snapshot';

/** The settings of a segment that can be set by their values. */
export type SegmentValues = Partial<Omit<Segment, 'id' | 'clip' | 'start' | 'seam'>>;

/** Sets values of a segment; what is behind it on its lane goes with its end. */
export interface Change {
  readonly type: 'change';
  readonly segment: string;
  readonly values: SegmentValues;
}

export const change = defineEdit<Change>({
  type: 'change',
  schema: { segment: rule.id, values: someOf(SEGMENT_FIELDS, 'id', 'clip', 'start', 'seam') },
  apply: (editor, { segment, values }) => changeSegment(editor, segment, values),
  describe: ({ segment, values }, scene) =>
    `${calledFields(SEGMENT_FIELDS, values)} of ${segmentName(scene, segment)}`,
});

/**
 * Sets values of a segment.
 *
 * @throws InputError `edit` where a value cannot be
 */
export function changeSegment(editor: SceneEditor, id: string, values: SegmentValues): void {
  const { scene } = editor;
  const lane = editor.laneOf(id);
  const segment = defined(scene.segments[id]);
  const before = editor.framesOf(segment);
  Object.assign(segment, values);
  const clip = requireClip(segment, editor.library);
  segment.in = Math.min(Math.max(0, segment.in), clip.frames - 1);
  segment.out = Math.min(Math.max(segment.in + 1, segment.out), clip.frames);
  if (!(segment.repeat > 0) || !(segment.speed > 0) || (segment.length !== null && !(segment.length >= 1))) {
    throw new InputError('edit', 'Repeats, speed and length must be above zero.', {
      place: { path: `segments.${id}` },
    });
  }
  if (segment.length !== null) segment.length = Math.round(segment.length);
  segment.hold = {
    start: Math.max(0, Math.round(segment.hold.start)),
    end: Math.max(0, Math.round(segment.hold.end)),
  };
  segment.marks = segment.marks
    .map((m) => ({ ...m, frame: Math.max(1, Math.round(m.frame)) }))
    .sort((a, b) => a.frame - b.frame)
    .filter((m, i, all) => m.frame !== all[i + 1]?.frame);
  if (segment.speedCurve?.length === 0) segment.speedCurve = null;
  requireValid(segmentSchema, snapshot(segment), `segments.${id}`);
  if (values.look) requireTarget(scene, lane.character, segment.look);
  const grown = segment.off ? 0 : editor.framesOf(segment) - before;
  for (const other of lane.segments.slice(lane.segments.indexOf(id) + 1))
    defined(scene.segments[other]).start += grown;
  editor.heal(lane);
}
