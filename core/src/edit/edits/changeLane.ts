import Joi from 'joi';
import type { LaneState } from '../../scene/lane';
import { PLAIN_LANE } from '../../scene/lane';
import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Sets how a lane is treated. */
export interface ChangeLane {
  readonly type: 'change lane';
  readonly lane: string;
  readonly values: Partial<LaneState>;
}

/** What setting each of them is called, and taking it back. */
const WORDS: Readonly<Record<keyof LaneState, readonly [string, string]>> = {
  muted: ['muting', 'unmuting'],
  solo: ['solo of', 'ending solo of'],
  locked: ['locking', 'unlocking'],
  hidden: ['hiding', 'showing'],
};

const states = Object.keys(PLAIN_LANE).map((name) => [name, Joi.boolean()] as const);

export const changeLane = defineEdit<ChangeLane>({
  type: 'change lane',
  schema: { lane: rule.id, values: Joi.object(Object.fromEntries(states)).required() },
  passesLocks: true,
  apply: ({ scene }, { lane, values }) => {
    Object.assign(lookup(scene.lanes, lane, 'lane'), values);
  },
  describe: ({ values }) => {
    const [name, value] = Object.entries(values)[0] ?? ['muted', true];
    const [doing, undoing] = WORDS[name as keyof LaneState];
    return `${value ? doing : undoing} a lane`;
  },
});
