import { makePoseBuffer } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { quatConjugate, quatFromAxis, quatMultiply, quatRotate } from '../math/quaternion';
import type { CharacterPlan } from '../plan/plan';
import type { Role } from '../skeleton/roles';
import type { Skeleton } from '../skeleton/skeleton';
import { jointOfRole } from '../skeleton/skeleton';
import type { PosedJoint } from './posing';

export const FINGERS = ['thumb', 'index', 'middle', 'ring', 'little'] as const;
export type FingerName = (typeof FINGERS)[number];

/** A finger: its joints from the palm on, with the axes about which they curl and spread, each in the joint's own axes at rest. */
interface Finger {
  readonly name: FingerName;
  readonly joints: readonly number[];
  readonly curl: readonly Float64Array[];
  readonly spread: Float64Array;
  /** How many places it is from the middle finger; towards the thumb is positive. */
  readonly aside: number;
}

/** How a hand is held: degrees by which each finger is curled at its first joint, and between neighbouring fingers. */
export interface HandPose {
  readonly curls: Readonly<Partial<Record<FingerName, number>>>;
  readonly spread: number;
}

const RADIANS = Math.PI / 180;
/** How far the joints of a finger curl when the first one does by 1: a relaxed hand, of common practice. */
const CURLS = [1, 1.2, 0.7] as const;
const ASIDE: Readonly<Record<FingerName, number>> = { thumb: 0, index: 1, middle: 0, ring: -1, little: -2 };

const jointsOf = (skeleton: Skeleton, side: 'left' | 'right', finger: FingerName): number[] => {
  const word = `${finger[0]!.toUpperCase()}${finger.slice(1)}`;
  const parts =
    finger === 'thumb' ? ['Metacarpal', 'Proximal', 'Distal'] : ['Proximal', 'Intermediate', 'Distal'];
  return parts.map((part) => jointOfRole(skeleton, `${side}${word}${part}` as Role)).filter((j) => j >= 0);
};

type Vec3 = readonly [number, number, number];
const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const unit = (v: Vec3): Vec3 => {
  const length = Math.hypot(...v) || 1;
  return [v[0] / length, v[1] / length, v[2] / length];
};

/**
 * The fingers of a hand, with hinges found from where they are at rest: fingers curl about the line of the knuckles, the thumb about one
 * half way between that and the palm's normal, and all spread about the normal. Empty where the hand has none, or no line of knuckles.
 */
export function fingersOf(skeleton: Skeleton, side: 'left' | 'right'): Finger[] {
  const { positions } = skeleton.rest;
  const hand = jointOfRole(skeleton, `${side}Hand`);
  const knuckle = (finger: FingerName): number => jointsOf(skeleton, side, finger)[0] ?? -1;
  const [index, little, middle] = [knuckle('index'), knuckle('little'), knuckle('middle')];
  if (Math.min(hand, index, little) < 0) return [];
  const place = (j: number): Vec3 => [positions[j * 3]!, positions[j * 3 + 1]!, positions[j * 3 + 2]!];
  const way = (a: number, b: number): Vec3 => {
    const [p, q] = [place(a), place(b)];
    return [q[0] - p[0], q[1] - p[1], q[2] - p[2]];
  };
  const ahead = unit(way(hand, middle >= 0 ? middle : index));
  // From the little finger to the index one; the palm faces away from the normal, on either side.
  const knuckles = unit(way(little, index));
  const sign = side === 'left' ? 1 : -1;
  const normal = unit(cross(knuckles, ahead)).map((v) => v * sign) as unknown as Vec3;
  const hinge = unit(cross(ahead, normal).map((v) => -v) as unknown as Vec3);
  const thumbHinge = unit([
    hinge[0] * 0.54 + normal[0] * sign * 0.84,
    hinge[1] * 0.54 + normal[1] * sign * 0.84,
    hinge[2] * 0.54 + normal[2] * sign * 0.84,
  ]);
  return FINGERS.flatMap((name) => {
    const joints = jointsOf(skeleton, side, name);
    if (joints.length === 0) return [];
    const axis = name === 'thumb' ? thumbHinge : hinge;
    return {
      name,
      joints,
      curl: joints.map((j) => atRest(skeleton, j, axis)),
      spread: atRest(skeleton, joints[0]!, normal.map((v) => -v * sign) as unknown as Vec3),
      aside: ASIDE[name],
    };
  });
}

/** A direction of the scene in a joint's own axes at rest. */
function atRest(skeleton: Skeleton, joint: number, axis: Vec3): Float64Array {
  const inverse = quatConjugate(skeleton.rest.rotations, joint * 4, new Float64Array(4), 0);
  return quatRotate(inverse, 0, Float64Array.from(axis), 0, new Float64Array(3), 0) as Float64Array;
}

/** How a hand is held in a pose: the turn of each finger's first joint about its hinge, and the spread of the outer ones. */
export function handPoseOf(plan: CharacterPlan, frame: number, side: 'left' | 'right'): HandPose {
  const { skeleton } = plan;
  const { rotations } = evaluate(plan, frame, makePoseBuffer(skeleton));
  const curls: Partial<Record<FingerName, number>> = {};
  let [spread, count] = [0, 0];
  for (const { name, joints, curl, spread: aside, aside: places } of fingersOf(skeleton, side)) {
    const turn = sinceRest(skeleton, joints[0]!, rotations);
    curls[name] = twistOf(turn, curl[0]!) / RADIANS;
    if (places === 0) continue;
    spread += twistOf(turn, aside) / RADIANS / places;
    count++;
  }
  return { curls, spread: count > 0 ? spread / count : 0 };
}

/** What a joint is turned by since it was at rest. */
function sinceRest({ restRotations }: Skeleton, joint: number, rotations: Float64Array): Float64Array {
  const turn = quatConjugate(restRotations, joint * 4, new Float64Array(4), 0) as Float64Array;
  return quatMultiply(turn, 0, rotations, joint * 4, turn, 0) as Float64Array;
}

/** The part of a rotation that is about an axis, radians (swing and twist; Dobrowolski 2015). */
function twistOf(q: Float64Array, axis: Float64Array): number {
  const along = q[0]! * axis[0]! + q[1]! * axis[1]! + q[2]! * axis[2]!;
  const angle = 2 * Math.atan2(along, q[3]!);
  return angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI));
}

/** The fingers of a hand as they are to be held. */
export function handPosed(
  { skeleton }: CharacterPlan,
  side: 'left' | 'right',
  { curls, spread }: HandPose,
): PosedJoint[] {
  return fingersOf(skeleton, side).flatMap(({ name, joints, curl, spread: aside, aside: places }) =>
    joints.map((joint, i): PosedJoint => {
      const rotation = skeleton.restRotations.slice(joint * 4, joint * 4 + 4);
      const turn = new Float64Array(4);
      const about = (axis: Float64Array, degrees: number): void => {
        quatFromAxis(axis[0]!, axis[1]!, axis[2]!, degrees * RADIANS, turn, 0);
        quatMultiply(rotation, 0, turn, 0, rotation, 0);
      };
      if (i === 0 && places !== 0) about(aside, spread * places);
      about(curl[i]!, (curls[name] ?? 0) * CURLS[i]!);
      return { joint, rotation };
    }),
  );
}
