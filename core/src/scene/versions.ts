import type { Patch } from 'immer';
import { applyPatches, enablePatches } from 'immer';
import type { Alternate } from './alternate';
import type { Scene } from './scene';

enablePatches();

/** A scene without its alternates. */
export const withoutAlternates = (scene: Scene): Scene =>
  scene.alternateOrder.length === 0 ? scene : { ...scene, alternates: {}, alternateOrder: [] };

/** The alternates of a scene in their order, the one in hand among them; none where there is only the scene. */
export const alternatesOf = ({ alternates, alternateOrder }: Scene): Alternate[] =>
  alternateOrder.flatMap((id) => alternates[id] ?? []);

/** The alternate that is the scene in hand; undefined where the scene has none. */
export const alternateInHand = ({ alternates }: Scene): Alternate | undefined =>
  Object.values(alternates).find((a) => a.differences === null);

/**
 * An alternate as a scene of its own, without others; the scene in hand for the one in hand.
 *
 * @throws Error where its differences do not fit the scene; those of a scene that was checked do
 */
export function versionOf(scene: Scene, { differences }: Pick<Alternate, 'differences'>): Scene {
  const bare = withoutAlternates(scene);
  return differences && differences.length > 0
    ? applyPatches(bare, differences as unknown as readonly Patch[])
    : bare;
}

/** A scene and all its other alternates, each as a scene of its own, in their order; the scene alone where it has none. */
export const versionsOf = (scene: Scene): Scene[] =>
  scene.alternateOrder.length === 0 ? [scene] : alternatesOf(scene).map((a) => versionOf(scene, a));
