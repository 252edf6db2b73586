import { InputError } from '../math/errors';
import { legsOf } from './legs';
import type { Skeleton } from './skeleton';

/** A motion and the skeleton that it was recorded on. */
interface Recorded {
  readonly id: string;
  readonly name: string;
  readonly skeleton: Skeleton;
}

const NUMBERS: Readonly<Record<number, string>> = { 2: 'two legs', 4: 'four legs' };

/** Whether a clip was recorded on two legs where a body has four, or the other way. Other bodies take any clip. */
export function hasOtherLegs(clip: Pick<Recorded, 'skeleton'>, skeleton: Skeleton): boolean {
  const [from, to] = [clip.skeleton, skeleton].map((s) => NUMBERS[legsOf(s).length]);
  return from !== undefined && to !== undefined && from !== to;
}

/**
 * Refuses a clip on a body with another number of legs: its joints have partners, but the legs bend where they should not.
 *
 * @throws InputError `other-legs`
 */
export function requireLikeLegs(clip: Recorded, skeleton: Skeleton): void {
  if (!hasOtherLegs(clip, skeleton)) return;
  const [from, to] = [clip.skeleton, skeleton].map((s) => NUMBERS[legsOf(s).length]!);
  throw new InputError('other-legs', `${clip.name} was recorded on ${from}, this character walks on ${to}.`, {
    place: { clip: clip.id },
    hint: 'Use a clip of a like body, or set "otherLegs" to use it all the same: legs may bend where they should not.',
  });
}
