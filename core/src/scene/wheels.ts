import { defined } from '../math/defined';
import type { Prop } from './prop';
import type { Skeleton } from '../skeleton/skeleton';

/** A joint that rolls on the floor, about its own x axis. */
export interface Wheel {
  readonly joint: number;
  /** Metres; the height of its hub over the floor at rest. */
  readonly radius: number;
  /** Where its hub is over the floor at rest, metres from the root bone. */
  readonly x: number;
  readonly z: number;
}

/** The joints of a hand cart that are its wheels. */
const HUBS = ['leftWheel', 'rightWheel'];

/** The wheels of a prop that is made in code; none of anything else. */
export function wheelsOf(prop: Prop | null, { names, rest, rootBone }: Skeleton): Wheel[] {
  if (prop?.shape !== 'hand cart') return [];
  const away = (joint: number, k: number): number =>
    defined(rest.positions[joint * 3 + k]) - defined(rest.positions[rootBone * 3 + k]);
  return HUBS.flatMap((name) => {
    const joint = names.indexOf(name);
    const wheel = joint >= 0 && { joint, radius: away(joint, 1), x: away(joint, 0), z: away(joint, 2) };
    return wheel && wheel.radius > 0 ? [wheel] : [];
  });
}
