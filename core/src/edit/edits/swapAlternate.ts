import { snapshot } from '../snapshot';
import type { Scene } from '../../scene/scene';
import { versionOf } from '../../scene/versions';
import { putInHand, requireOther } from '../alternates/hands';
import { alternateName, defineEdit, rule } from '../defineEdit';

/** Takes an alternate in hand; what was in hand stays beside it. */
export interface SwapAlternate {
  readonly type: 'swap alternate';
  readonly alternate: string;
}

export const swapAlternate = defineEdit<SwapAlternate>({
  type: 'swap alternate',
  schema: { alternate: rule.id },
  ofAlternates: true,
  apply: ({ scene }, { alternate }) => {
    const other = requireOther(scene, alternate);
    putInHand(scene, versionOf(snapshot<Scene>(scene), snapshot(other)), alternate);
  },
  describe: ({ alternate }, scene) => `swap to ${alternateName(scene, alternate)}`,
});
