import { findCycle, inOrderOf } from '../math/dependencies';
import { InputError } from '../math/errors';
import type { Lane } from '../scene/lane';
import { bodyLane } from '../scene/lanes';
import type { Scene } from '../scene/scene';
import type { Segment } from '../scene/segment';
import type { Lead } from '../scene/tether';

/** The segments of a lane that are performed. */
export const performedOn = (scene: Scene, lane: Lane, muted: ReadonlySet<string>): Segment[] =>
  lane.segments.map((s) => scene.segments[s]!).filter((s) => !s.off && !muted.has(s.id));

/** The leads that somebody walks on. */
export const leadsOf = (scene: Scene, character: string): Lead[] =>
  Object.values(scene.tethers).filter(
    (t): t is Lead => t.kind === 'lead' && t.child === character && !t.muted,
  );

/**
 * The characters of a scene in an order in which those who are met, or lead somebody, come before those whose place depends on them.
 *
 * @throws InputError `ring` where that goes round in a ring
 */
export function inGuidingOrder(
  scene: Scene,
  disabled: ReadonlySet<string>,
  muted: ReadonlySet<string>,
): readonly string[] {
  const needs = new Map<string, string[]>();
  for (const id of scene.characterOrder) {
    const lane = bodyLane(scene, id);
    const own = lane && !disabled.has(lane.id) ? performedOn(scene, lane, muted) : [];
    const met = own.flatMap(({ meet }) => (meet && scene.characters[meet.character] ? [meet.character] : []));
    const all = [...met, ...leadsOf(scene, id).map((l) => l.parent)];
    if (all.length > 0) needs.set(id, all);
  }
  if (needs.size === 0) return scene.characterOrder;
  const ring = findCycle(needs);
  if (!ring) return inOrderOf(needs, scene.characterOrder);
  const names = [...ring, ring[0]!].map((id) => scene.characters[id]?.name ?? id);
  throw new InputError('ring', `The places of ${names.join(' and ')} would depend on each other.`, {
    hint: 'Let one of them meet and follow none of the others.',
  });
}
