import { castDraft } from 'immer';
import Joi from 'joi';
import { calledFields } from '../../scene/fields';
import type { Join, SeamPlacing } from '../../scene/seam';
import { SEAM_FIELDS, seamSchema, withSeam } from '../../scene/seam';
import { defineEdit, requireValid, rule, segmentName, someOf } from '../defineEdit';
import { lookup } from '../lookup';

/** Sets values of the seam before a segment. */
export interface Seam {
  readonly type: 'seam';
  readonly segment: string;
  readonly values: Partial<SeamPlacing>;
  /** How the two motions go over into each other, where that is to change. */
  readonly join?: Join;
}

export const seam = defineEdit<Seam>({
  type: 'seam',
  schema: {
    segment: rule.id,
    values: someOf(SEAM_FIELDS),
    join: Joi.object({ kind: rule.name }).unknown(),
  },
  apply: ({ scene }, { segment: id, values, join }) => {
    const segment = lookup(scene.segments, id, 'segment');
    // What is set by hand is the user's own, unless that is what was set.
    const isChoice = 'auto' in values || 'limits' in values;
    const next = withSeam(segment.seam, isChoice ? values : { ...values, auto: false, chosen: null }, join);
    requireValid(seamSchema, next, `segments.${id}.seam`);
    segment.seam = castDraft(next);
  },
  describe: ({ segment, values, join }, scene) => {
    const what = Object.keys(values).length > 0 ? calledFields(SEAM_FIELDS, values) : (join?.kind ?? 'seam');
    return `${what} before ${segmentName(scene, segment)}`;
  },
});
