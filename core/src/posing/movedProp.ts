import type { Edit } from '../edit/edit';
import type { CharacterPlan, Plan } from '../plan/plan';
import type { FloorPlace } from '../scene/floor';
import type { Support } from './surfaces';
import { SAME_HEIGHT, supportsAt } from './surfaces';

/**
 * The edit that has a prop start elsewhere. One that stands on the floor or on another prop stands on what is there; one that hangs in the air
 * keeps its height.
 *
 * @param frame where other props are looked for
 * @param free keeps its height in any case
 */
export function movedProp(
  plan: Plan,
  own: CharacterPlan,
  start: FloorPlace,
  frame: number,
  free = false,
): Edit {
  const { id, name, body, prop, start: before } = own.character;
  const move: Edit = { type: 'start character', character: id, start };
  if (!prop || free) return move;
  const supportOf = (place: FloorPlace): Support =>
    highestUpTo(supportsAt(plan, id, place, frame), prop.raised);
  const stands = Math.abs(supportOf(before ?? { x: 0, z: 0, heading: 0 }).height - prop.raised) < SAME_HEIGHT;
  const { height } = supportOf(start);
  if (!stands || Math.abs(height - prop.raised) < SAME_HEIGHT) return move;
  const raise: Edit = { type: 'change prop', character: id, body, prop: { ...prop, raised: height } };
  return { type: 'several', label: `start of ${name}`, edits: [move, raise] };
}

/** The highest of what is there, but for what stands higher itself: a shelf is not climbed from below. */
function highestUpTo(supports: readonly Support[], raised: number): Support {
  const bottom = (s: Support): number => s.prop?.character.prop?.raised ?? 0;
  return supports.filter((s) => bottom(s) <= raised + SAME_HEIGHT).at(-1)!;
}
