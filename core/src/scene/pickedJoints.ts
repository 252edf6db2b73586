import Joi from 'joi';
import { text } from './rules';

/** What a joint of a body can be picked for: to sit on, to be held by, to wear a lead. */
export const JOINT_USES = ['seat', 'grip', 'collar'] as const;

/** What a joint can be picked for. */
export type JointUse = (typeof JOINT_USES)[number];

/** Roles or names of the joints of a body that were picked for something. */
export type PickedJoints = Readonly<Partial<Record<JointUse, string>>>;

/** The rule of the joints that were picked on a body. */
export const pickedJointsSchema = Joi.object(Object.fromEntries(JOINT_USES.map((use) => [use, text])));
