import { quatFromArc, quatRotate, quatTurn } from '../math/quaternion';
import { restHeading } from './rootBone';
import type { Role } from './roles';
import { QUADRUPED_ROLES, ROLES } from './roles';
import type { Skeleton } from './skeleton';
import { makeSkeleton } from './skeleton';

/** The bones without which a body is no humanoid (VRMC_vrm-1.0, "humanoid": required bones). */
const REQUIRED: readonly Role[] = [
  'hips',
  'spine',
  'head',
  ...(['UpperLeg', 'LowerLeg', 'Foot', 'UpperArm', 'LowerArm', 'Hand'] as const).flatMap((part): Role[] => [
    `left${part}`,
    `right${part}`,
  ]),
];

/** Roles that a T-pose skeleton leaves out: eyes look by themselves. */
const NOT_POSED = new Set<Role>(['leftEye', 'rightEye']);

/** The roles of a humanoid that a skeleton lacks; none for one that is whole. A four-legged body is none. */
export const missingHumanoidRoles = ({ roles }: Skeleton): Role[] =>
  QUADRUPED_ROLES.some((role) => roles.includes(role))
    ? REQUIRED.filter((role) => /Arm|Hand/.test(role))
    : REQUIRED.filter((role) => !roles.includes(role));

/** A skeleton in T-pose made from another, and the joint of that one that each joint stands for. */
export interface TPose {
  readonly skeleton: Skeleton;
  readonly joints: Int32Array;
}

/**
 * The humanoid of a skeleton in T-pose: its joints with a role, called by it, with bones as long as they are, arms along the X axis
 * (the left one along +X), legs down, looking along +Z, no joint turned. Its feet stand as high as they do.
 */
export function tPose(skeleton: Skeleton): TPose {
  const joints = Int32Array.from(
    [...skeleton.names.keys()].filter((j) => {
      const role = skeleton.roles[j];
      return role !== null && role !== undefined && ROLES.includes(role) && !NOT_POSED.has(role);
    }),
  );
  const index = new Map([...joints].map((joint, i) => [joint, i]));
  const parentOf = (joint: number): number => {
    let up = skeleton.parents[joint]!;
    while (up >= 0 && !index.has(up)) up = skeleton.parents[up]!;
    return up;
  };
  const names = [...joints].map((j) => skeleton.roles[j]!);
  const parents = [...joints].map((j) => index.get(parentOf(j)) ?? -1);
  const offsets = new Float64Array(joints.length * 3);
  const turns = [...joints].map((joint) => turnIntoT(skeleton, joint));
  joints.forEach((joint, i) => {
    const up = parentOf(joint);
    const from = up < 0 ? [0, 0, 0] : place(skeleton, up);
    const own = place(skeleton, joint);
    const away = Float64Array.from(own, (v, k) => v - from[k]!);
    const turn = up < 0 ? null : turns[parents[i]!];
    if (turn) quatRotate(turn, 0, away, 0, away, 0);
    offsets.set(away, i * 3);
  });
  const upright = makeSkeleton({ names, parents, restTranslations: offsets, roles: names });
  offsets[1]! += footHeight(skeleton) - footHeight(upright);
  return {
    skeleton: makeSkeleton({ names, parents, restTranslations: offsets, roles: names }),
    joints,
  };
}

/** Where a joint is at rest, the whole body turned to look along +Z. */
function place(skeleton: Skeleton, joint: number): number[] {
  const turn = Float64Array.of(0, 0, 0, 1);
  quatTurn(turn, 0, -restHeading(skeleton));
  const out = Float64Array.from(skeleton.rest.positions.subarray(joint * 3, joint * 3 + 3));
  return [...quatRotate(turn, 0, out, 0, out, 0)];
}

const footHeight = (skeleton: Skeleton): number =>
  skeleton.rest.positions[skeleton.roles.indexOf('leftFoot') * 3 + 1] ?? 0;

const LIMBS: readonly (readonly [part: string, next: string])[] = [
  ['UpperArm', 'LowerArm'],
  ['LowerArm', 'Hand'],
  ['UpperLeg', 'LowerLeg'],
  ['LowerLeg', 'Foot'],
];

/** What turns what hangs on a joint from its rest into the T-pose; null for what stays. Hands and fingers follow the lower arm. */
function turnIntoT(skeleton: Skeleton, joint: number): Float64Array | null {
  const role = skeleton.roles[joint] ?? '';
  const side = role.startsWith('left') ? 'left' : role.startsWith('right') ? 'right' : null;
  if (!side) return null;
  const part = role.slice(side.length);
  const isHand = part === 'Hand' || /^(Thumb|Index|Middle|Ring|Little)/.test(part);
  const [from, to] = isHand ? ['LowerArm', 'Hand'] : (LIMBS.find(([name]) => name === part) ?? []);
  const joints = [from, to].map((name) => skeleton.roles.indexOf(`${side}${name}` as Role));
  const [a, b] = joints;
  if (from === undefined || a === undefined || b === undefined || a < 0 || b < 0) return null;
  const [start, end] = [place(skeleton, a), place(skeleton, b)];
  const way = Float64Array.from(end, (v, k) => v - start[k]!);
  const wanted = from.endsWith('Arm') ? [side === 'left' ? 1 : -1, 0, 0] : [0, -1, 0];
  return quatFromArc(way, wanted);
}
