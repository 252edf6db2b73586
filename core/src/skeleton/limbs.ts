import type { Limb } from './reach';
import type { Skeleton } from './skeleton';
import { jointOfRole } from './skeleton';

/** The limb that a hand or a foot ends; null where a joint ends none. */
export function limbEndingAt(skeleton: Skeleton, joint: number): Limb | null {
  for (const side of ['left', 'right'] as const)
    for (const [upper, lower, end] of [
      [`${side}UpperArm`, `${side}LowerArm`, `${side}Hand`],
      [`${side}UpperLeg`, `${side}LowerLeg`, `${side}Foot`],
      [`${side}FrontUpperLeg`, `${side}FrontLowerLeg`, `${side}FrontPaw`],
    ] as const) {
      const limb = {
        upper: jointOfRole(skeleton, upper),
        lower: jointOfRole(skeleton, lower),
        end: jointOfRole(skeleton, end),
      };
      if (limb.end === joint && Math.min(limb.upper, limb.lower, limb.end) >= 0) return limb;
    }
  return null;
}

/** The axis about which a straight limb bends: an elbow goes backwards, a knee forwards, as the body faces. */
export function straightBend(
  skeleton: Skeleton,
  { upper, end }: Limb,
  places: Float64Array,
  heading: number,
): Float64Array {
  const sign = skeleton.roles[end]?.endsWith('Hand') ? -1 : 1;
  const [fx, fz] = [sign * Math.sin(heading), sign * Math.cos(heading)];
  const [dx, dy, dz] = [0, 1, 2].map((k) => places[end * 3 + k]! - places[upper * 3 + k]!) as [
    number,
    number,
    number,
  ];
  // The limb across where its bend goes to; of one that points there, about its side.
  const across = Float64Array.of(dy * fz, dz * fx - dx * fz, -dy * fx);
  const isAlong = Math.hypot(...across) < 0.1 * Math.hypot(dx, dy, dz);
  return isAlong ? Float64Array.of(fz, 0, -fx) : across;
}
