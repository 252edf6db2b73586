import { castDraft } from 'immer';
import type { Alternate } from '../../scene/alternate';
import type { Scene } from '../../scene/scene';
import { checkScene } from '../../scene/schema';
import { alternateInHand, versionOf, withoutAlternates } from '../../scene/versions';
import { followScope } from '../alternates/followScope';
import { dropAlternate, putInHand, requireOther } from '../alternates/hands';
import { takeScope } from '../alternates/takeScope';
import { alternateName, defineEdit, rule } from '../defineEdit';
import { snapshot } from '../snapshot';

/**
 * Merges an alternate back: what it has in its scope is taken in place of what the scene in hand has there, and the alternate is gone. All
 * else stays as it is in hand.
 */
export interface MergeAlternate {
  readonly type: 'merge alternate';
  readonly alternate: string;
}

export const mergeAlternate = defineEdit<MergeAlternate>({
  type: 'merge alternate',
  schema: { alternate: rule.id },
  ofAlternates: true,
  apply: ({ scene, library }, { alternate }) => {
    requireOther(scene, alternate);
    const whole = snapshot<Scene>(scene);
    const other = whole.alternates[alternate] as Alternate;
    const inHand = alternateInHand(whole);
    if (!inHand) return;
    const into = { scene: withoutAlternates(whole), scope: inHand.scope };
    const merged = takeScope(into, { scene: versionOf(whole, other), scope: other.scope }, library);
    checkScene(merged);
    putInHand(scene, merged, inHand.id);
    const own = scene.alternates[inHand.id];
    const scenes = { before: into.scene, after: merged };
    if (own && inHand.scope) own.scope = castDraft(followScope(inHand.scope, scenes, true, library));
    dropAlternate(scene, alternate);
  },
  describe: ({ alternate }, scene) => `merge of ${alternateName(scene, alternate)}`,
});
