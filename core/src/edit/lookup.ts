import type { Draft } from 'immer';
import { InputError } from '../math/errors';
import type { LayerLane } from '../scene/lane';
import type { Look } from '../scene/look';
import type { Scene } from '../scene/scene';

/** The entry of a record.
 *
 * @throws InputError `edit` where there is none
 */
export function lookup<T>(record: Record<string, T>, id: string, what: string): T {
  const entry = record[id];
  if (entry === undefined) throw new InputError('edit', `The scene has no ${what} ${id}.`);
  return entry;
}

/** Sees to it that nothing new takes the place of something else.
 *
 * @throws InputError `edit` where the id is in use
 */
export function requireUnusedId(record: Record<string, unknown>, id: string, what: string): void {
  if (record[id] !== undefined) throw new InputError('edit', `The scene has a ${what} ${id} already.`);
}

/** Sees to it that somebody looks at nothing, at a place, or at another character of the scene.
 *
 * @throws InputError `edit` where it does not
 */
export function requireTarget({ characters }: Draft<Scene>, character: string, look: Look | null): void {
  if (!look || !('character' in look.at)) return;
  const { name } = lookup(characters, look.at.character, 'character');
  if (look.at.character === character)
    throw new InputError('edit', `${name} cannot look at themselves.`, {
      hint: 'Choose another character, or a place.',
    });
}

/** The layer with an id.
 *
 * @throws InputError `edit` where there is none
 */
export function requireLayer(draft: Draft<Scene>, id: string): Draft<LayerLane> {
  const lane = lookup(draft.lanes, id, 'layer');
  if (lane.kind !== 'layer') throw new InputError('edit', `Lane ${id} is no layer.`);
  return lane;
}
