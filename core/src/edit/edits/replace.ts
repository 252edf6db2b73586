import { defined } from '../../math/defined';
import Joi from 'joi';
import { parseRate } from '../../math/rate';
import type { Segment } from '../../scene/segment';
import type { Placed } from '../../timeline/lane';
import { requireClip } from '../../timeline/lane';
import { segmentTiming } from '../../timeline/timing';
import { defineEdit, rule, segmentName } from '../defineEdit';

/** What takes the place of a segment's clip. */
export interface Replacement {
  readonly clip: string;
  readonly name: string;
  /** Whether it goes on from its end to its start where it is too short. */
  readonly loop: boolean;
}

/**
 * Takes another clip in place of a segment's: it starts where it did and fills as many frames, if the clip has them or
 * loops; else the rest comes nearer.
 */
export interface Replace {
  readonly type: 'replace';
  readonly segment: string;
  readonly by: Replacement;
}

export const replace = defineEdit<Replace>({
  type: 'replace',
  schema: {
    segment: rule.id,
    by: Joi.object({ clip: rule.id, name: rule.name, loop: rule.flag }).required(),
  },
  apply: (editor, { segment: id, by }) => {
    const { lane, item } = editor.find(id);
    const segment = defined(editor.scene.segments[id]);
    const old = requireClip(segment, editor.library);
    const next = requireClip({ ...item.segment, clip: by.clip, name: by.name }, editor.library);
    if (segment.name === old.name) segment.name = by.name;
    Object.assign(segment, { clip: by.clip, in: 0, out: next.frames, phase: 0, repeat: 1, length: null });
    segment.loop = false;
    const rate = parseRate(editor.scene.rate);
    const wanted = item.timing.frames;
    const whole: Placed = {
      ...item,
      segment: { ...item.segment, ...(segment as Segment) },
      timing: segmentTiming(segment, next, rate, editor.library.memory),
    };
    if (whole.timing.frames > wanted) editor.cutTo(segment, whole, 'end', wanted);
    else if (whole.timing.frames < wanted && by.loop) {
      segment.loop = true;
      const looped = {
        ...whole,
        segment: { ...whole.segment, loop: true },
        timing: segmentTiming(segment, next, rate, editor.library.memory),
      };
      editor.repeatTo(segment, looped, 'end', wanted);
    }
    const grown = editor.framesOf(segment) - wanted;
    for (const other of lane.segments.slice(lane.segments.indexOf(id) + 1))
      defined(editor.scene.segments[other]).start += grown;
    editor.heal(lane);
  },
  describe: ({ segment }, scene) => `replacement of ${segmentName(scene, segment)}`,
});
