import type { CharacterPlan, Plan, Scene, Tether, TetherValues } from '@warper/core';
import { jointWords } from './jointChoices';

/** The frames of a tether in words. */
export const tetherSpan = ({ start, end }: Tether): string =>
  end === null ? `from ${start}` : `${start} to ${end}`;

/** What a tether does, in a sentence without an end. */
export function tetherWords(tether: Tether, { characters }: Pick<Scene, 'characters'>): string {
  const [child, parent] = [tether.child, tether.parent].map((id) => characters[id]?.name ?? '');
  if (tether.kind === 'lead') return `${child} on a lead held by ${parent}`;
  return tether.kind === 'hold' ? `${child} held by ${parent}` : `${child} reaches for ${parent}`;
}

/** What a tether is called unless it is given a name: who holds it by which joint, or which limb reaches for what. */
export function usualName(
  tether: Pick<Tether, 'joint'> &
    ({ readonly kind: 'hold' | 'lead' } | { readonly kind: 'reach'; readonly limb: string }),
  child: CharacterPlan,
  parent: CharacterPlan,
): string {
  const { name } = parent.character;
  if (tether.kind === 'reach') return `${jointWords(child.skeleton, tether.limb)} on ${name}`;
  if (tether.kind === 'lead') return `Lead, ${name}`;
  return tether.joint === null ? name : `${name}, ${jointWords(parent.skeleton, tether.joint)}`;
}

/** Changes of a tether with its name, where that is the usual one, brought up to them. */
export function renamed(tether: Tether, values: TetherValues, plan: Plan): TetherValues {
  const nameOf = (of: Tether): string | null => {
    const [child, parent] = [of.child, of.parent].map((id) =>
      plan.characters.find((c) => c.character.id === id),
    );
    return child && parent ? usualName(of, child, parent) : null;
  };
  if ('name' in values || tether.name !== nameOf(tether)) return values;
  const name = nameOf({ ...tether, ...values });
  return name === null || name === tether.name ? values : { ...values, name };
}
