import { defineEdit, alternateName, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Puts an alternate at another place of their order. */
export interface OrderAlternate {
  readonly type: 'order alternate';
  readonly alternate: string;
  /** Its place, from 0; past the ends it is the first or last. */
  readonly to: number;
}

export const orderAlternate = defineEdit<OrderAlternate>({
  type: 'order alternate',
  schema: { alternate: rule.id, to: rule.number },
  ofAlternates: true,
  apply: ({ scene }, { alternate, to }) => {
    lookup(scene.alternates, alternate, 'alternate');
    const others = scene.alternateOrder.filter((a) => a !== alternate);
    const place = Math.min(others.length, Math.max(0, Math.round(to)));
    scene.alternateOrder = [...others.slice(0, place), alternate, ...others.slice(place)];
  },
  describe: ({ alternate }, scene) => `place of the alternate ${alternateName(scene, alternate)}`,
});
