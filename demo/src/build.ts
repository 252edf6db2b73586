import type { Skeleton } from '@warper/core';
import { makeSkeleton } from '@warper/core';

/**
 * Measures of a body in metres. Leg ratios: Drillis and Contini 1966, in Winter, *Biomechanics and Motor Control of Human
 * Movement* (from memory): thigh 0.245 H, shank 0.246 H, foot height 0.039 H; forearm 0.146 H, foot length 0.152 H.
 */
export interface Build {
  readonly height: number;
  readonly thigh: number;
  readonly shank: number;
  readonly ankleHeight: number;
  /** Half the distance between the hip joints. */
  readonly hipHalf: number;
  /** Ankle to the ball of the foot: forwards, and the ball's height. */
  readonly ballForward: number;
  readonly ballHeight: number;
  readonly heelBack: number;
  readonly toeLength: number;
  /** Height of the hips joint over the hip joints. */
  readonly hipsAbove: number;
  readonly shoulderHalf: number;
  readonly upperArm: number;
  readonly lowerArm: number;
  readonly hand: number;
}

/** A body by the usual ratios. */
export function buildOf(height: number): Build {
  return {
    height,
    thigh: 0.245 * height,
    shank: 0.246 * height,
    ankleHeight: 0.039 * height,
    hipHalf: 0.05 * height,
    ballForward: 0.073 * height,
    ballHeight: 0.011 * height,
    heelBack: 0.032 * height,
    toeLength: 0.045 * height,
    hipsAbove: 0.018 * height,
    shoulderHalf: 0.102 * height,
    upperArm: 0.168 * height,
    lowerArm: 0.146 * height,
    hand: 0.1 * height,
  };
}

/** Height of the hip joints over the floor with straight legs. */
export const standingHip = (b: Build): number => b.ankleHeight + b.shank + b.thigh;

export type Side = 'left' | 'right';

/** The fingers, thumb first. */
export const FINGERS = ['Thumb', 'Index', 'Middle', 'Ring', 'Little'] as const;
export type Finger = (typeof FINGERS)[number];

/** The bones of a finger from the palm on, by their VRM 1.0 names. */
export const PHALANGES = ['Proximal', 'Intermediate', 'Distal'] as const;
const THUMB_BONES = ['Metacarpal', 'Proximal', 'Distal'] as const;
type FingerBone =
  `Thumb${(typeof THUMB_BONES)[number]}` | `${Exclude<Finger, 'Thumb'>}${(typeof PHALANGES)[number]}`;
type ArmBone = 'Shoulder' | 'UpperArm' | 'LowerArm' | 'Hand';
type LegBone = 'UpperLeg' | 'LowerLeg' | 'Foot' | 'Toes';

/** A joint of the demonstration's skeletons. */
export type Joint =
  'hips' | 'spine' | 'chest' | 'upperChest' | 'neck' | 'head' | `${Side}${ArmBone | LegBone | FingerBone}`;

/** The three joints of a finger, from the palm on. */
export const fingerJoints = (side: Side, finger: Finger): readonly [Joint, Joint, Joint] =>
  (finger === 'Thumb' ? THUMB_BONES : PHALANGES).map(
    (bone) => `${side}${finger}${bone}` as Joint,
  ) as unknown as readonly [Joint, Joint, Joint];

/** A chain of joints below a parent. */
const chain = (parent: Joint, joints: readonly Joint[]): [Joint, Joint][] =>
  joints.map((joint, i) => [joint, joints[i - 1] ?? parent]);

const arm = (side: Side): [Joint, Joint][] => [
  ...chain('upperChest', [`${side}Shoulder`, `${side}UpperArm`, `${side}LowerArm`, `${side}Hand`]),
  ...FINGERS.flatMap((finger) => chain(`${side}Hand`, fingerJoints(side, finger))),
];
const leg = (side: Side): [Joint, Joint][] =>
  chain('hips', [`${side}UpperLeg`, `${side}LowerLeg`, `${side}Foot`, `${side}Toes`]);

const JOINTS: readonly (readonly [Joint, Joint | ''])[] = [
  ['hips', ''],
  ...chain('hips', ['spine', 'chest', 'upperChest', 'neck', 'head']),
  ...arm('left'),
  ...arm('right'),
  ...leg('left'),
  ...leg('right'),
];

/** Names of the joints, parents first. */
export const JOINT_NAMES: readonly Joint[] = JOINTS.map(([name]) => name);

/**
 * Where a finger's first bone begins in the hand, [towards the fingertips, up, towards the thumb], and the lengths of its
 * three bones; shares of the height. By hand lengths of 0.108 H (Winter, as above; from memory), the bones in the
 * proportions of a drawn hand.
 */
const FINGER_MEASURES: Readonly<
  Record<
    Finger,
    {
      readonly from: readonly [number, number, number];
      readonly bones: readonly [number, number, number];
    }
  >
> = {
  Thumb: { from: [0.012, -0.004, 0.014], bones: [0.0255, 0.0185, 0.0155] },
  Index: { from: [0.0465, 0, 0.0165], bones: [0.0235, 0.014, 0.0125] },
  Middle: { from: [0.047, 0.001, 0.005], bones: [0.025, 0.0155, 0.013] },
  Ring: { from: [0.0455, 0, -0.006], bones: [0.0235, 0.0145, 0.013] },
  Little: { from: [0.0425, -0.002, -0.0165], bones: [0.0185, 0.0105, 0.011] },
};

/** Which way a left finger points in the rest pose (unit); the right one is its mirror image. */
export const fingerDirection = (finger: Finger): readonly [number, number, number] =>
  finger === 'Thumb' ? [0.832, -0.07, 0.55] : [1, 0, 0];

/** The offsets of a hand's fingers, and where each ends. */
function fingerOffsets(
  h: number,
  side: Side,
): { offsets: [Joint, [number, number, number]][]; ends: [Joint, [number, number, number]][] } {
  const s = side === 'left' ? 1 : -1;
  const offsets: [Joint, [number, number, number]][] = [];
  const ends: [Joint, [number, number, number]][] = [];
  for (const finger of FINGERS) {
    const { from, bones } = FINGER_MEASURES[finger];
    const [dx, dy, dz] = fingerDirection(finger);
    const along = (length: number): [number, number, number] => [
      s * dx * length * h,
      dy * length * h,
      dz * length * h,
    ];
    const [first, second, third] = fingerJoints(side, finger);
    offsets.push([first, [s * from[0] * h, from[1] * h, from[2] * h]]);
    offsets.push([second, along(bones[0])], [third, along(bones[1])]);
    ends.push([third, along(bones[2])]);
  }
  return { offsets, ends };
}

/** Place of each joint relative to its parent in the rest pose: a T, facing +Z, left arm along +X. */
export function restOffsets(b: Build): Record<Joint, [number, number, number]> {
  const h = b.height;
  const hips = standingHip(b) + b.hipsAbove;
  const arm = (s: 1 | -1) => ({
    shoulder: [s * 0.016 * h, 0.07 * h, 0] as [number, number, number],
    upper: [s * (b.shoulderHalf - 0.016 * h), -0.004 * h, 0] as [number, number, number],
    lower: [s * b.upperArm, 0, 0] as [number, number, number],
    hand: [s * b.lowerArm, 0, 0] as [number, number, number],
  });
  const l = arm(1);
  const r = arm(-1);
  return {
    hips: [0, hips, 0],
    spine: [0, 0.045 * h, -0.004 * h],
    chest: [0, 0.07 * h, -0.004 * h],
    upperChest: [0, 0.075 * h, 0.002 * h],
    neck: [0, 0.095 * h, 0.004 * h],
    head: [0, 0.045 * h, 0.008 * h],
    leftShoulder: l.shoulder,
    leftUpperArm: l.upper,
    leftLowerArm: l.lower,
    leftHand: l.hand,
    rightShoulder: r.shoulder,
    rightUpperArm: r.upper,
    rightLowerArm: r.lower,
    rightHand: r.hand,
    leftUpperLeg: [b.hipHalf, -b.hipsAbove, 0],
    leftLowerLeg: [0, -b.thigh, 0],
    leftFoot: [0, -b.shank, 0],
    leftToes: [0, b.ballHeight - b.ankleHeight, b.ballForward],
    rightUpperLeg: [-b.hipHalf, -b.hipsAbove, 0],
    rightLowerLeg: [0, -b.thigh, 0],
    rightFoot: [0, -b.shank, 0],
    rightToes: [0, b.ballHeight - b.ankleHeight, b.ballForward],
    ...Object.fromEntries([...fingerOffsets(h, 'left').offsets, ...fingerOffsets(h, 'right').offsets]),
  } as Record<Joint, [number, number, number]>;
}

/** The skeleton of a build. */
export function skeletonOf(b: Build): Skeleton {
  const offsets = restOffsets(b);
  const parents = JOINTS.map(([, parent]) => JOINT_NAMES.indexOf(parent as Joint));
  const fingertips = new Map([
    ...fingerOffsets(b.height, 'left').ends,
    ...fingerOffsets(b.height, 'right').ends,
  ]);
  const end = (name: Joint): [number, number, number] | null => {
    if (name === 'head') return [0, 0.105 * b.height, 0];
    if (name.endsWith('Toes')) return [0, 0, b.toeLength];
    return fingertips.get(name) ?? null;
  };
  return makeSkeleton({
    names: JOINT_NAMES,
    parents,
    restTranslations: JOINT_NAMES.flatMap((name) => offsets[name]),
    ends: JOINT_NAMES.map(end),
  });
}
