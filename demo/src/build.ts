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

/** A joint of the demonstration's skeletons. */
export type Joint = (typeof JOINTS)[number][0];

const JOINTS = [
  ['hips', ''],
  ['spine', 'hips'],
  ['chest', 'spine'],
  ['upperChest', 'chest'],
  ['neck', 'upperChest'],
  ['head', 'neck'],
  ['leftShoulder', 'upperChest'],
  ['leftUpperArm', 'leftShoulder'],
  ['leftLowerArm', 'leftUpperArm'],
  ['leftHand', 'leftLowerArm'],
  ['leftMiddleProximal', 'leftHand'],
  ['leftMiddleIntermediate', 'leftMiddleProximal'],
  ['leftThumbProximal', 'leftHand'],
  ['rightShoulder', 'upperChest'],
  ['rightUpperArm', 'rightShoulder'],
  ['rightLowerArm', 'rightUpperArm'],
  ['rightHand', 'rightLowerArm'],
  ['rightMiddleProximal', 'rightHand'],
  ['rightMiddleIntermediate', 'rightMiddleProximal'],
  ['rightThumbProximal', 'rightHand'],
  ['leftUpperLeg', 'hips'],
  ['leftLowerLeg', 'leftUpperLeg'],
  ['leftFoot', 'leftLowerLeg'],
  ['leftToes', 'leftFoot'],
  ['rightUpperLeg', 'hips'],
  ['rightLowerLeg', 'rightUpperLeg'],
  ['rightFoot', 'rightLowerLeg'],
  ['rightToes', 'rightFoot'],
] as const;

/** Names of the joints, parents first. */
export const JOINT_NAMES = JOINTS.map(([name]) => name);

/** Place of each joint relative to its parent in the rest pose: a T, facing +Z, left arm along +X. */
export function restOffsets(b: Build): Record<Joint, [number, number, number]> {
  const h = b.height;
  const hips = standingHip(b) + b.hipsAbove;
  const arm = (s: 1 | -1) => ({
    shoulder: [s * 0.016 * h, 0.07 * h, 0] as [number, number, number],
    upper: [s * (b.shoulderHalf - 0.016 * h), -0.004 * h, 0] as [number, number, number],
    lower: [s * b.upperArm, 0, 0] as [number, number, number],
    hand: [s * b.lowerArm, 0, 0] as [number, number, number],
    finger: [s * 0.047 * h, 0, 0] as [number, number, number],
    finger2: [s * 0.025 * h, 0, 0] as [number, number, number],
    thumb: [s * 0.016 * h, -0.004 * h, 0.014 * h] as [number, number, number],
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
    leftMiddleProximal: l.finger,
    leftMiddleIntermediate: l.finger2,
    leftThumbProximal: l.thumb,
    rightShoulder: r.shoulder,
    rightUpperArm: r.upper,
    rightLowerArm: r.lower,
    rightHand: r.hand,
    rightMiddleProximal: r.finger,
    rightMiddleIntermediate: r.finger2,
    rightThumbProximal: r.thumb,
    leftUpperLeg: [b.hipHalf, -b.hipsAbove, 0],
    leftLowerLeg: [0, -b.thigh, 0],
    leftFoot: [0, -b.shank, 0],
    leftToes: [0, b.ballHeight - b.ankleHeight, b.ballForward],
    rightUpperLeg: [-b.hipHalf, -b.hipsAbove, 0],
    rightLowerLeg: [0, -b.thigh, 0],
    rightFoot: [0, -b.shank, 0],
    rightToes: [0, b.ballHeight - b.ankleHeight, b.ballForward],
  };
}

/** The skeleton of a build. */
export function skeletonOf(b: Build): Skeleton {
  const offsets = restOffsets(b);
  const parents = JOINTS.map(([, parent]) => JOINT_NAMES.indexOf(parent as Joint));
  const end = (name: Joint): [number, number, number] | null => {
    if (name === 'head') return [0, 0.105 * b.height, 0];
    if (name.endsWith('MiddleIntermediate'))
      return [name.startsWith('left') ? 0.028 * b.height : -0.028 * b.height, 0, 0];
    if (name.endsWith('Thumb')) return [0, 0, 0.02];
    if (name.endsWith('Toes')) return [0, 0, b.toeLength];
    return null;
  };
  return makeSkeleton({
    names: JOINT_NAMES,
    parents,
    restTranslations: JOINT_NAMES.flatMap((name) => offsets[name]),
    ends: JOINT_NAMES.map(end),
  });
}
