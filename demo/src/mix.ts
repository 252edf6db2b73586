import type { Arm, Foot, Stance, Turn, Vec3 } from './pose';
import { mixArm } from './takes';

const mix = (a: number, b: number, w: number): number => a + (b - a) * w;
const mixPlace = (a: Vec3, b: Vec3, w: number): Vec3 => [
  mix(a[0], b[0], w),
  mix(a[1], b[1], w),
  mix(a[2], b[2], w),
];
const mixTurn = (a: Turn, b: Turn, w: number): Turn => ({
  yaw: mix(a.yaw, b.yaw, w),
  pitch: mix(a.pitch, b.pitch, w),
  roll: mix(a.roll, b.roll, w),
});

/** Mixes arms; what only one of them reaches for counts by its share. */
function mixReaching(a: Arm, b: Arm, w: number): Arm {
  const reach =
    a.reach && b.reach
      ? { to: mixPlace(a.reach.to, b.reach.to, w), weight: mix(a.reach.weight, b.reach.weight, w) }
      : a.reach
        ? { ...a.reach, weight: a.reach.weight * (1 - w) }
        : b.reach && { ...b.reach, weight: b.reach.weight * w };
  return { ...mixArm(a, b, w), ...(reach ? { reach } : {}) };
}

const mixFoot = (a: Foot, b: Foot, w: number): Foot => ({
  ankle: mixPlace(a.ankle, b.ankle, w),
  heading: mix(a.heading, b.heading, w),
  pitch: mix(a.pitch, b.pitch, w),
  toes: mix(a.toes, b.toes, w),
});

/** Mixes two stances by a share from 0 to 1. */
export const mixStance = (a: Stance, b: Stance, w: number): Stance => ({
  pelvis: mixPlace(a.pelvis, b.pelvis, w),
  pelvisTurn: mixTurn(a.pelvisTurn, b.pelvisTurn, w),
  torso: mixTurn(a.torso, b.torso, w),
  head: mixTurn(a.head, b.head, w),
  arms: {
    left: mixReaching(a.arms.left, b.arms.left, w),
    right: mixReaching(a.arms.right, b.arms.right, w),
  },
  feet: {
    left: mixFoot(a.feet.left, b.feet.left, w),
    right: mixFoot(a.feet.right, b.feet.right, w),
  },
});

/** Adds turns and moves to a stance's trunk. */
export const leaning = (
  s: Stance,
  by: {
    readonly pelvis?: Vec3;
    readonly hips?: Partial<Turn>;
    readonly torso?: Partial<Turn>;
    readonly head?: Partial<Turn>;
  },
): Stance => {
  const plus = (a: Turn, d: Partial<Turn> = {}): Turn => ({
    yaw: a.yaw + (d.yaw ?? 0),
    pitch: a.pitch + (d.pitch ?? 0),
    roll: a.roll + (d.roll ?? 0),
  });
  const [x, y, z] = by.pelvis ?? [0, 0, 0];
  return {
    ...s,
    pelvis: [s.pelvis[0] + x, s.pelvis[1] + y, s.pelvis[2] + z],
    pelvisTurn: plus(s.pelvisTurn, by.hips),
    torso: plus(s.torso, by.torso),
    head: plus(s.head, by.head),
  };
};
