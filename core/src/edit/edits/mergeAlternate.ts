import { InputError } from '../../math/errors';
import type { Alternate } from '../../scene/alternate';
import type { Scene } from '../../scene/scene';
import { alternateInHand, versionOf, withoutAlternates } from '../../scene/versions';
import { dropAlternate, putInHand, requireOther } from '../alternates/hands';
import { strayDifference } from '../alternates/strayDifference';
import { alternateName, defineEdit, rule } from '../defineEdit';
import { snapshot } from '../snapshot';

/**
 * Merges an alternate back: what differs in its scope becomes that of the scene in hand, and the alternate is gone. The scene in hand
 * keeps its own name and comment.
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
    const version = versionOf(whole, other);
    const bare = { scene: withoutAlternates(whole), scope: inHand.scope };
    const stray = strayDifference(bare, { scene: version, scope: other.scope }, library);
    if (stray !== null)
      throw new InputError('edit', `${other.name} and ${inHand.name} also differ elsewhere: ${stray}.`, {
        hint: `Swap to ${other.name}, or keep it only.`,
      });
    putInHand(scene, version, inHand.id);
    const kept = scene.alternates[inHand.id];
    if (kept)
      kept.scope = other.scope && {
        ...other.scope,
        characters: other.scope.characters && [...other.scope.characters],
      };
    dropAlternate(scene, alternate);
  },
  describe: ({ alternate }, scene) => `merge of ${alternateName(scene, alternate)}`,
});
