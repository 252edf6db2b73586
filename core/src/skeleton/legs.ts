import type { Role } from './roles';
import type { Skeleton } from './skeleton';
import { jointOfRole } from './skeleton';

/** A leg: the chain that bends to put a foot or paw on its place. */
export interface Leg {
  readonly side: 'left' | 'right';
  readonly front: boolean;
  /** Joints of the thigh, the shank and the foot that hangs on it: hip, knee, ankle (or elbow and carpus in front). */
  readonly upper: number;
  readonly lower: number;
  readonly ankle: number;
  /** The joint that stays down when the ankle rises: toes or hind paw; -1 where the leg has none. */
  readonly tip: number;
  /** Joints that are looked at when steps are found. */
  readonly planted: readonly number[];
}

const SIDES = ['left', 'right'] as const;

/** The legs of a skeleton: two of a humanoid's, four of a quadruped's, none where the roles for it are missing. */
export function legsOf(skeleton: Skeleton): readonly Leg[] {
  const joint = (role: Role): number => jointOfRole(skeleton, role);
  const matches: Leg[] = [];
  for (const side of SIDES) {
    const upper = joint(`${side}UpperLeg`);
    const lower = joint(`${side}LowerLeg`);
    const ankle = joint(`${side}Foot`);
    const tip = joint(`${side}Toes`);
    if (upper < 0 || lower < 0 || ankle < 0) continue;
    // A hock never stands: of a leg with paws only the paw does.
    const paw = joint(`${side}FrontPaw`) >= 0 && tip >= 0;
    const planted = paw || tip < 0 ? [paw ? tip : ankle] : [ankle, tip];
    matches.push({ side, front: false, upper, lower, ankle, tip, planted });
  }
  for (const side of SIDES) {
    const upper = joint(`${side}FrontUpperLeg`);
    const lower = joint(`${side}FrontLowerLeg`);
    const ankle = joint(`${side}FrontPaw`);
    if (upper < 0 || lower < 0 || ankle < 0) continue;
    matches.push({ side, front: true, upper, lower, ankle, tip: -1, planted: [ankle] });
  }
  return matches;
}

/** Distance of two joints in the rest pose, metres. */
function boneLength(skeleton: Skeleton, a: number, b: number): number {
  const { positions } = skeleton.rest;
  return Math.hypot(...[0, 1, 2].map((k) => positions[a * 3 + k]! - positions[b * 3 + k]!));
}

/** Leg length in metres, thigh and shank and the height of the ankle; null without legs. */
export function legLength(skeleton: Skeleton): number | null {
  const leg = legsOf(skeleton)[0];
  if (!leg) return null;
  const { positions } = skeleton.rest;
  let low = Infinity;
  for (let i = 0; i < skeleton.names.length; i++) low = Math.min(low, positions[i * 3 + 1]!);
  return (
    boneLength(skeleton, leg.upper, leg.lower) +
    boneLength(skeleton, leg.lower, leg.ankle) +
    positions[leg.ankle * 3 + 1]! -
    low
  );
}
