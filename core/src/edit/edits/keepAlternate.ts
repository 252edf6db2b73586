import type { Scene } from '../../scene/scene';
import { versionOf } from '../../scene/versions';
import { putInHand } from '../alternates/hands';
import { alternateName, defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';
import { snapshot } from '../snapshot';

/** Keeps one alternate, which is the scene from now on; all others are thrown away. */
export interface KeepAlternate {
  readonly type: 'keep alternate';
  readonly alternate: string;
}

export const keepAlternate = defineEdit<KeepAlternate>({
  type: 'keep alternate',
  schema: { alternate: rule.id },
  ofAlternates: true,
  apply: ({ scene }, { alternate }) => {
    lookup(scene.alternates, alternate, 'alternate');
    const whole = snapshot<Scene>(scene);
    const kept = whole.alternates[alternate];
    if (kept?.differences) putInHand(scene, versionOf(whole, kept), alternate);
    scene.alternates = {};
    scene.alternateOrder = [];
  },
  describe: ({ alternate }, scene) => `keeping of ${alternateName(scene, alternate)} only`,
});
