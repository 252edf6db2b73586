import type { CharacterPlan } from '../plan/plan';
import { roleWords } from '../skeleton/roles';

/** A joint as part of the body, where that is known. */
export function jointWords({ skeleton }: CharacterPlan, name: string): string {
  const role = skeleton.roles[skeleton.names.indexOf(name)];
  return role ? `the ${roleWords(role)}` : name;
}

/** A sentence with a capital. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
