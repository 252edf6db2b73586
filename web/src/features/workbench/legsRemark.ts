import type { CharacterPlan, Skeleton } from '@warper/core';
import { legsOf } from '@warper/core';

const NUMBERS: Readonly<Record<number, string>> = { 2: 'two legs', 4: 'four legs' };

/** A remark on a clip that was recorded on other legs than those of the character that performs it; null where they agree. */
export function legsRemark(
  clip: { readonly name: string; readonly skeleton: Skeleton },
  { character, skeleton }: Pick<CharacterPlan, 'character' | 'skeleton'>,
): string | null {
  const [from, to] = [clip.skeleton, skeleton].map((s) => NUMBERS[legsOf(s).length]);
  if (!from || !to || from === to) return null;
  return `${clip.name} was recorded on ${from}, ${character.name} walks on ${to}.`;
}
