import Joi from 'joi';
import type { JointUse } from '../../scene/pickedJoints';
import { JOINT_USES } from '../../scene/pickedJoints';
import { defineEdit, rule } from '../defineEdit';

/** Keeps with a body which of its joints is its seat, grip or collar; null forgets it. */
export interface PickJoint {
  readonly type: 'pick joint';
  readonly body: string;
  readonly use: JointUse;
  /** Role or name. */
  readonly joint: string | null;
}

export const pickJoint = defineEdit<PickJoint>({
  type: 'pick joint',
  schema: {
    body: rule.id,
    use: Joi.valid(...JOINT_USES).required(),
    joint: Joi.string().max(200).allow(null).required(),
  },
  apply: ({ scene }, { body, use, joint }) => {
    const picked = { ...scene.pickedJoints[body] };
    if (joint === null) delete picked[use];
    else picked[use] = joint;
    if (Object.keys(picked).length > 0) scene.pickedJoints[body] = picked;
    else delete scene.pickedJoints[body];
  },
  describe: ({ use }) => use,
});
