import { castDraft } from 'immer';
import Joi from 'joi';
import { InputError } from '../../math/errors';
import type { Join as Kind, SeamPlacing } from '../../scene/seam';
import { SEAM_FIELDS, seamSchema, withSeam } from '../../scene/seam';
import { mostOverlap } from '../../timeline/freeFrames';
import { defineEdit, requireValid, rule, segmentName, someOf } from '../defineEdit';
import { fill } from '../fillFrames';
import { lookup } from '../lookup';
import { sidesOf } from '../sidesOf';

/**
 * Joins a segment to the one before it in a whole new way: how much of either is used beside the seam, how many frames they
 * share, how they go over into each other. What is behind it follows.
 */
export interface Join {
  readonly type: 'join';
  readonly segment: string;
  /** Frames that the segment before is to fill, changed at its end, and this one, changed at its start. */
  readonly before: number;
  readonly own: number;
  readonly overlap: number;
  readonly values: Partial<SeamPlacing>;
  readonly join: Kind;
}

export const join = defineEdit<Join>({
  type: 'join',
  schema: {
    segment: rule.id,
    before: Joi.number().integer().min(1).required(),
    own: Joi.number().integer().min(1).required(),
    overlap: Joi.number().integer().min(0).required(),
    values: someOf(SEAM_FIELDS),
    join: Joi.object({ kind: rule.name }).unknown().required(),
  },
  apply: (editor, { segment: id, before: frames, own, overlap, values, join: kind }) => {
    const sides = sidesOf(editor, id);
    if (!sides) return;
    const { lane, placed, i } = editor.find(id);
    const { before, item, tail } = sides;
    const most = mostOverlap({ length: frames, covered: before.overlap }, { length: own, covered: tail });
    if (overlap > most || !fill(editor, before, 'end', frames) || !fill(editor, item, 'start', own)) {
      throw new InputError('edit', 'The two segments do not have the frames for that join.', {
        place: { path: `segments.${id}` },
        hint: 'Choose a shorter overlap, or other frames.',
      });
    }
    const segment = lookup(editor.scene.segments, id, 'segment');
    const next = withSeam(segment.seam, values, kind);
    requireValid(seamSchema, next, `segments.${id}.seam`);
    segment.seam = castDraft(next);
    segment.start = before.start + frames - overlap;
    editor.shift(lane, placed[i + 1], segment.start + own - item.end);
  },
  describe: ({ segment }, scene) => `join before ${segmentName(scene, segment)}`,
});
