import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Gives a sound lane another place among them, counted from 0 at the top. */
export interface OrderSoundLane {
  readonly type: 'order sound lane';
  readonly lane: string;
  readonly to: number;
}

export const orderSoundLane = defineEdit<OrderSoundLane>({
  type: 'order sound lane',
  schema: { lane: rule.id, to: rule.number },
  apply: ({ scene }, { lane, to }) => {
    lookup(scene.soundLanes, lane, 'sound lane');
    const others = scene.soundLaneOrder.filter((l) => l !== lane);
    others.splice(Math.min(others.length, Math.max(0, Math.round(to))), 0, lane);
    scene.soundLaneOrder = others;
  },
  describe: ({ lane }, scene) => `place of the sound lane ${scene.soundLanes[lane]?.name ?? ''}`.trim(),
});
