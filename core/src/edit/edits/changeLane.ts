import Joi from 'joi';
import type { LaneState } from '../../scene/lane';
import { PLAIN_LANE } from '../../scene/lane';
import { characterName, defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Sets how a lane is treated. */
export interface ChangeLane {
  readonly type: 'change lane';
  readonly lane: string;
  readonly values: Partial<LaneState>;
}

/** What setting each of them is called. */
const WORDS: Readonly<Record<keyof LaneState, string>> = {
  muted: 'mute',
  solo: 'solo',
  locked: 'lock',
  hidden: 'hiding',
};

const states = Object.keys(PLAIN_LANE).map((name) => [name, Joi.boolean()] as const);

export const changeLane = defineEdit<ChangeLane>({
  type: 'change lane',
  schema: { lane: rule.id, values: Joi.object(Object.fromEntries(states)).required() },
  passesLocks: true,
  apply: ({ scene }, { lane, values }) => {
    Object.assign(lookup(scene.lanes, lane, 'lane'), values);
  },
  describe: ({ lane, values }, scene) => {
    const names = (Object.keys(values) as (keyof LaneState)[]).map((name) => WORDS[name]);
    const owner = scene.lanes[lane];
    const of =
      owner?.kind === 'layer' ? `the layer ${owner.name}` : characterName(scene, owner?.character ?? '');
    return `${names.join(' and ')} of ${of}`;
  },
});
