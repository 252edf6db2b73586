import type { Draft } from 'immer';
import { InputError } from '../math/errors';
import type { Scene } from '../scene/scene';
import { findRing, ringMessage } from '../scene/tether';
import { lookup } from './lookup';

/**
 * Sees to it that a tether is between two of the scene, and closes no ring.
 *
 * @throws InputError `edit` where it does not
 */
export function requireTethered(scene: Draft<Scene>, id: string): void {
  const { child, parent } = lookup(scene.tethers, id, 'tether');
  for (const one of [child, parent]) lookup(scene.characters, one, 'character');
  if (child === parent)
    throw new InputError(
      'edit',
      `${lookup(scene.characters, child, 'character').name} cannot hold themselves.`,
      {
        place: { path: `tethers.${id}` },
        hint: 'Choose another character or prop.',
      },
    );
  const ring = findRing(scene.tethers);
  if (ring)
    throw new InputError('edit', ringMessage(scene, ring), {
      place: { path: `tethers.${id}` },
      hint: 'Let one of them hold nothing of the others.',
    });
}
