import type { Role } from './roles';
import { roleWords } from './roles';
import type { Skeleton } from './skeleton';
import { jointOfRole } from './skeleton';

/** Why a joint's role is doubtful: where it hangs, on which side it lies, how high, or which way it points. */
export interface Doubt {
  readonly joint: number;
  readonly code: 'order' | 'side' | 'height' | 'facing';
  readonly message: string;
}

/** Chains of roles: each joint hangs below those before it. `S` stands for both sides. */
const CHAINS: readonly (readonly string[])[] = [
  ['hips', 'spine', 'chest', 'upperChest', 'neck', 'head'],
  ['hips', 'SUpperLeg', 'SLowerLeg', 'SFoot', 'SToes'],
  ['hips', 'SFrontShoulder', 'SFrontUpperLeg', 'SFrontLowerLeg', 'SFrontPaw'],
  ['SShoulder', 'SUpperArm', 'SLowerArm', 'SHand'],
];
const SIDES = ['left', 'right'] as const;

/** Pairs of one side and the other that have to lie apart (metres) before their sides can be told. */
const APART = 0.01;
/** Cosine between a foot and the body's front below which the foot points backwards: 120 degrees away and more. */
const BACKWARDS = -0.5;

/**
 * What speaks against the roles of a skeleton, from its hierarchy and its rest pose: a joint that does not hang on the one
 * before it, a pair that lies the wrong way round, a knee above its hip, toes that point behind the body.
 */
export function findDoubts(skeleton: Skeleton): Doubt[] {
  return [...orderDoubts(skeleton), ...sideDoubts(skeleton), ...heightDoubts(skeleton), ...facing(skeleton)];
}

function orderDoubts(skeleton: Skeleton): Doubt[] {
  const doubts: Doubt[] = [];
  const seen = new Set<number>();
  for (const chain of CHAINS)
    for (const side of SIDES) {
      let above = -1;
      for (const part of chain) {
        const role = part.replace('S', side) as Role;
        const joint = jointOfRole(skeleton, role);
        if (joint < 0) continue;
        if (above >= 0 && !isBelow(skeleton, joint, above) && !seen.has(joint)) {
          seen.add(joint);
          const other = skeleton.roles[above]!;
          const message = `The ${roleWords(role)} does not hang on the ${roleWords(other)}, ${skeleton.names[above]!}.`;
          doubts.push({ joint, code: 'order', message });
        }
        above = joint;
      }
    }
  return doubts;
}

function isBelow({ parents }: Skeleton, joint: number, above: number): boolean {
  for (let j = parents[joint]!; j >= 0; j = parents[j]!) if (j === above) return true;
  return false;
}

/** Joints of the left side with their partners of the right. */
function pairs(skeleton: Skeleton): [number, number][] {
  return skeleton.roles.flatMap((role, left): [number, number][] => {
    if (!role?.startsWith('left')) return [];
    const right = jointOfRole(skeleton, `right${role.slice(4)}` as Role);
    return right < 0 ? [] : [[left, right]];
  });
}

/** A pair, and its direction on the floor from right to left: unit, or zero where the two lie together. */
interface Pair {
  readonly joints: readonly [number, number];
  readonly x: number;
  readonly z: number;
}

function pairsAcross(skeleton: Skeleton): Pair[] {
  const { positions } = skeleton.rest;
  return pairs(skeleton).map(([a, b]): Pair => {
    const x = positions[a * 3]! - positions[b * 3]!;
    const z = positions[a * 3 + 2]! - positions[b * 3 + 2]!;
    const n = Math.hypot(x, z);
    return n < APART ? { joints: [a, b], x: 0, z: 0 } : { joints: [a, b], x: x / n, z: z / n };
  });
}

/** The way to the left, as most pairs have it. */
const leftOf = (across: readonly Pair[]): { x: number; z: number } =>
  across.reduce((sum, p) => ({ x: sum.x + p.x, z: sum.z + p.z }), { x: 0, z: 0 });

function sideDoubts(skeleton: Skeleton): Doubt[] {
  const across = pairsAcross(skeleton);
  const left = leftOf(across);
  return across.flatMap(({ joints, x, z }) =>
    x * left.x + z * left.z >= 0
      ? []
      : joints.map((joint): Doubt => {
          const role = roleWords(skeleton.roles[joint]!);
          return { joint, code: 'side', message: `The ${role} lies on the other side of the body.` };
        }),
  );
}

function heightDoubts(skeleton: Skeleton): Doubt[] {
  const { positions } = skeleton.rest;
  const doubts: Doubt[] = [];
  const check = (low: Role, high: Role): void => {
    const [a, b] = [jointOfRole(skeleton, low), jointOfRole(skeleton, high)];
    if (a < 0 || b < 0 || positions[a * 3 + 1]! < positions[b * 3 + 1]!) return;
    const message = `The ${roleWords(low)} lies above the ${roleWords(high)} in the rest pose.`;
    doubts.push({ joint: a, code: 'height', message });
  };
  for (const side of SIDES) {
    check(`${side}LowerLeg`, `${side}UpperLeg`);
    check(`${side}Foot`, `${side}LowerLeg`);
    check(`${side}FrontPaw`, `${side}FrontUpperLeg`);
  }
  if (jointOfRole(skeleton, 'leftFrontUpperLeg') < 0) check('hips', 'head');
  return doubts;
}

/** Left and right follow from the roles, and the front follows from them: toes that point behind tell of a swap. */
function facing(skeleton: Skeleton): Doubt[] {
  const { positions } = skeleton.rest;
  const across = pairsAcross(skeleton);
  const left = leftOf(across);
  const size = Math.hypot(left.x, left.z);
  if (size < 1e-6) return [];
  let forward = 0;
  for (const side of SIDES) {
    const [foot, toes] = [jointOfRole(skeleton, `${side}Foot`), jointOfRole(skeleton, `${side}Toes`)];
    if (foot < 0 || toes < 0) return [];
    const x = positions[toes * 3]! - positions[foot * 3]!;
    const z = positions[toes * 3 + 2]! - positions[foot * 3 + 2]!;
    const n = Math.hypot(x, z);
    if (n < APART) return [];
    // Forward is across x up.
    forward += (z * left.x - x * left.z) / (n * size * 2);
  }
  if (forward > BACKWARDS) return [];
  return across.flatMap(({ joints }) =>
    joints.map((joint): Doubt => {
      const message = 'The toes point behind the body: left and right look swapped.';
      return { joint, code: 'facing', message };
    }),
  );
}
