import Joi from 'joi';
import { defineEdit } from '../defineEdit';

/** Sets the width of the scene's picture by its height. */
export interface SetAspect {
  readonly type: 'aspect';
  readonly aspect: number;
}

export const aspect = defineEdit<SetAspect>({
  type: 'aspect',
  schema: { aspect: Joi.number().min(0.2).max(5).required() },
  apply: ({ scene }, { aspect }) => void (scene.aspect = aspect),
  describe: () => 'aspect of the picture',
});
