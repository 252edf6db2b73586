import type { Draft } from 'immer';
import type { Camera } from '../scene/camera';
import type { Scene } from '../scene/scene';
import { lookup } from './lookup';

/** Sees to it that whom a camera follows, looks at or keeps in its picture is in the scene.
 *
 * @throws InputError `edit` where somebody is not
 */
export function requireFilmed({ characters }: Draft<Scene>, { follow, look, keep }: Camera): void {
  for (const one of [follow, look, keep]) if (one) lookup(characters, one.character, 'character');
}
