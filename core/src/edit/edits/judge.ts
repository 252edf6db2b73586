import type { ShotSize } from '../../scene/thresholds';
import { shotSize } from '../../scene/thresholds';
import { defineEdit } from '../defineEdit';

/** Says how closely the scene will be looked at: what its measures are judged by. */
export interface Judge {
  readonly type: 'judge';
  readonly shotSize: ShotSize;
}

export const judge = defineEdit<Judge>({
  type: 'judge',
  schema: { shotSize: shotSize.required() },
  apply: ({ scene }, { shotSize: size }) => {
    scene.shotSize = size;
  },
  describe: ({ shotSize: size }) => `thresholds for ${size}`,
  passesLocks: true,
});
