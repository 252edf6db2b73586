import { castDraft } from 'immer';
import Joi from 'joi';
import { InputError } from '../../math/errors';
import { defineEdit, rule } from '../defineEdit';

/** Sets the user's own steps of a joint of a clip, or goes back to what was found. */
export interface Steps {
  readonly type: 'steps';
  readonly clip: string;
  readonly joint: string;
  /** The user's own spans of samples; null goes back to what was found. */
  readonly spans: readonly (readonly [number, number])[] | null;
}

export const steps = defineEdit<Steps>({
  type: 'steps',
  schema: {
    clip: rule.id,
    joint: rule.name,
    spans: Joi.array().items(Joi.array().ordered(rule.number, rule.number)).allow(null).required(),
  },
  apply: ({ scene }, { clip, joint, spans }) => {
    if (spans === null) {
      delete scene.steps[clip]?.[joint];
      if (scene.steps[clip] && Object.keys(scene.steps[clip]).length === 0) delete scene.steps[clip];
      return;
    }
    const wrong = spans.find(([a, b]) => !Number.isInteger(a) || !Number.isInteger(b) || a < 0 || b <= a);
    if (wrong) {
      throw new InputError('edit', `Samples ${wrong[0]} to ${wrong[1]} are no step.`, {
        place: { bone: joint },
        hint: 'A step begins before it ends; both are whole samples.',
      });
    }
    scene.steps[clip] = { ...scene.steps[clip], [joint]: castDraft([...spans]) };
  },
  describe: ({ joint }) => `steps of ${joint}`,
});
