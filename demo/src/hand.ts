import { quatFromAxis, quatMultiply } from '@warper/core/kernels';
import type { Finger, Joint, Side } from './build';
import { FINGERS, fingerJoints } from './build';

const DEG = Math.PI / 180;

/** How a hand is held: the bends of each finger's three joints from the palm on, in radians; towards the palm is positive. */
export interface HandShape {
  readonly bends: Readonly<Record<Finger, readonly [number, number, number]>>;
  /** Angle between neighbouring fingers, in radians. */
  readonly spread: number;
}

/** Fingers that are bent as a hand at rest is, more so towards the little finger, by the bend of the middle knuckle. */
export function curledBy(curl: number): HandShape {
  const finger = (share: number): [number, number, number] => [
    curl * share,
    curl * 1.2 * share,
    curl * 0.7 * share,
  ];
  return {
    bends: {
      Thumb: [curl * 0.2, curl * 0.45, curl * 0.5],
      Index: finger(0.84),
      Middle: finger(1),
      Ring: finger(1.1),
      Little: finger(1.16),
    },
    spread: 1.5 * DEG,
  };
}

const degrees = (
  spread: number,
  thumb: readonly [number, number, number],
  ...fingers: readonly (readonly [number, number, number])[]
): HandShape => {
  const radians = (bends: readonly [number, number, number]): [number, number, number] => [
    bends[0] * DEG,
    bends[1] * DEG,
    bends[2] * DEG,
  ];
  return {
    bends: Object.fromEntries(
      FINGERS.map((finger, i) => [finger, radians(i === 0 ? thumb : (fingers[i - 1] ?? fingers.at(-1)!))]),
    ) as unknown as HandShape['bends'],
    spread: spread * DEG,
  };
};

/** The shapes of a hand that the library has clips of. */
export const HAND_SHAPES = {
  relaxed: curledBy(24 * DEG),
  flat: degrees(1, [-6, 6, 4], [2, 3, 2]),
  spread: degrees(11, [-20, -4, -6], [-4, 3, 2]),
  fist: degrees(0, [24, 42, 52], [80, 98, 60], [84, 100, 62], [86, 100, 62], [84, 98, 60]),
  point: degrees(0, [22, 44, 50], [3, 4, 3], [80, 98, 60], [84, 100, 62], [84, 98, 60]),
  hook: degrees(1, [0, 12, 14], [10, 84, 52], [10, 88, 54], [12, 88, 54], [12, 84, 50]),
  'grip lantern': degrees(0, [20, 34, 30], [56, 66, 40], [62, 72, 42], [66, 74, 44], [68, 74, 44]),
} as const satisfies Record<string, HandShape>;

/** Mixes two shapes by a share. */
export function mixHand(a: HandShape, b: HandShape, share: number): HandShape {
  const mix = (x: number, y: number): number => x + (y - x) * share;
  return {
    bends: Object.fromEntries(
      FINGERS.map((finger) => [finger, a.bends[finger].map((x, i) => mix(x, b.bends[finger][i]!))]),
    ) as unknown as HandShape['bends'],
    spread: mix(a.spread, b.spread),
  };
}

/** About what a left thumb bends (unit): it comes across the palm and down to it. */
const THUMB_HINGE = [0.396, 0.772, -0.499] as const;

/** How many places a finger is from the middle one, towards the thumb. */
const ASIDE: Readonly<Record<Finger, number>> = { Thumb: 0, Index: 1, Middle: 0, Ring: -1, Little: -2 };

/** The rotations of a hand's fingers, parent-relative, xyzw. */
export function fingerRotations(side: Side, shape: HandShape): Map<Joint, Float64Array> {
  const s = side === 'left' ? 1 : -1;
  const about = (x: number, y: number, z: number, radians: number): Float64Array =>
    quatFromAxis(x, y, z, radians, new Float64Array(4), 0) as Float64Array;
  const out = new Map<Joint, Float64Array>();
  for (const finger of FINGERS) {
    fingerJoints(side, finger).forEach((joint, i) => {
      const bend = shape.bends[finger][i]!;
      const [x, y, z] = THUMB_HINGE;
      if (finger === 'Thumb') out.set(joint, about(x, s * y, s * z, bend));
      else {
        const aside = about(0, 1, 0, i === 0 ? -s * ASIDE[finger] * shape.spread : 0);
        const bent = about(0, 0, 1, -s * bend);
        out.set(joint, quatMultiply(aside, 0, bent, 0, new Float64Array(4), 0) as Float64Array);
      }
    });
  }
  return out;
}
