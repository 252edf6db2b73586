import type { Draft, Patch } from 'immer';
import { applyPatches, castDraft } from 'immer';
import { InputError } from '../../math/errors';
import type { Alternate } from '../../scene/alternate';
import type { Difference } from '../../scene/differences';
import { differences } from '../../scene/differences';
import type { Scene } from '../../scene/scene';
import { alternatesOf, versionOf, withoutAlternates } from '../../scene/versions';
import { lookup } from '../lookup';
import { snapshot } from '../snapshot';

/** An alternate that is not in hand, with what leads to it.
 *
 * @throws InputError `edit` where there is none, or it is in hand already
 */
export function requireOther(
  { alternates }: Draft<Scene>,
  id: string,
): Draft<Alternate> & { differences: Draft<readonly Difference[]> } {
  const alternate = lookup(alternates, id, 'alternate');
  const { name, differences: own } = alternate;
  if (!own)
    throw new InputError('edit', `${name} is in hand already.`, { hint: 'Choose another alternate.' });
  return { ...alternate, differences: own };
}

/** Puts a version of a scene in the place of the one in hand; all alternates stay what they are, and one of them is that version. */
export function putInHand(draft: Draft<Scene>, version: Scene, id: string): void {
  const whole = snapshot<Scene>(draft);
  const versions = alternatesOf(whole).map((a) => [a.id, versionOf(whole, a)] as const);
  applyPatches(draft, differences(withoutAlternates(whole), version) as unknown as readonly Patch[]);
  for (const [other, scene] of versions) {
    const alternate = draft.alternates[other];
    if (alternate) alternate.differences = other === id ? null : castDraft(differences(version, scene));
  }
}

/** Leaves the scene in hand alone, once there is no other alternate beside it. */
function forgetLast(draft: Draft<Scene>): void {
  if (draft.alternateOrder.length > 1) return;
  draft.alternates = {};
  draft.alternateOrder = [];
}

/** Throws an alternate away that is not in hand. */
export function dropAlternate(draft: Draft<Scene>, id: string): void {
  delete draft.alternates[id];
  draft.alternateOrder = draft.alternateOrder.filter((a) => a !== id);
  forgetLast(draft);
}
