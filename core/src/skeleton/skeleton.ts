import type { Floats } from '../math/quaternion';
import { quatNormalize, quatRotate } from '../math/quaternion';
import { derivation, Memory } from '../memory/memory';
import { InputError, TOO_LARGE_HINT } from '../math/errors';
import type { Role } from './roles';
import { findRoles } from './roles';

/**
 * Joints in an order in which a parent comes before its children.
 *
 * The *root bone* is the joint that carries the body through space: the hips, else the topmost joint. Clips keep
 * its transform in scene space, whatever moves above it.
 */
export interface Skeleton {
  readonly names: readonly string[];
  /** Index of each joint's parent, -1 for the topmost joint. */
  readonly parents: Int32Array;
  /** joints x 3, metres, relative to the parent. */
  readonly restTranslations: Float64Array;
  /** joints x 4, xyzw, relative to the parent. */
  readonly restRotations: Float64Array;
  readonly roles: readonly (Role | null)[];
  readonly rootBone: number;
  /** Where the chains end: offset of the end site of a joint in metres, null where there is none. */
  readonly ends: readonly (readonly [number, number, number] | null)[];
  /** How much larger it is than the body that it was read from. */
  readonly size: number;
  /** World transforms of the rest pose. */
  readonly rest: RestPose;
  /** The parents with the root bone made a top joint, as clips keep it. */
  readonly detachedParents: Int32Array;
}

/** Most joints that a skeleton may have; a human body with face and fingers has about 200. */
export const MAX_JOINTS = 4096;

/**
 * Makes a skeleton; roles are found from the names unless given.
 *
 * @throws InputError `skeleton` where a parent does not come before its child, or there is no joint
 */
export function makeSkeleton(parts: {
  names: readonly string[];
  parents: ArrayLike<number>;
  restTranslations: ArrayLike<number>;
  restRotations?: ArrayLike<number>;
  ends?: Skeleton['ends'];
  roles?: readonly (Role | null)[];
}): Skeleton {
  const count = parts.names.length;
  const parents = Int32Array.from(parts.parents);
  if (count === 0 || count > MAX_JOINTS) {
    throw new InputError('skeleton', `A skeleton has 1 to ${MAX_JOINTS} joints; this one has ${count}.`, {
      hint: count > 0 ? TOO_LARGE_HINT : 'Take a file with bones.',
    });
  }
  parents.forEach((parent, i) => {
    if (parent >= i || (parent < 0 && i > 0)) {
      throw new InputError('skeleton', `Joint ${parts.names[i]} comes before its parent.`, {
        place: { bone: parts.names[i]! },
      });
    }
  });
  const restRotations = new Float64Array(count * 4);
  for (let i = 0; i < count; i++) {
    restRotations[i * 4 + 3] = 1;
    if (parts.restRotations) {
      for (let k = 0; k < 4; k++) restRotations[i * 4 + k] = parts.restRotations[i * 4 + k]!;
      quatNormalize(restRotations, i * 4);
    }
  }
  const roles = parts.roles ?? findRoles(parts.names, parents);
  const restTranslations = Float64Array.from(parts.restTranslations);
  const rootBone = Math.max(0, roles.indexOf('hips'));
  return {
    names: parts.names,
    parents,
    restTranslations,
    restRotations,
    roles,
    rootBone,
    ends: parts.ends ?? parts.names.map(() => null),
    size: 1,
    rest: restInWorld(parents, restRotations, restTranslations),
    detachedParents: parents.map((parent, i) => (i === rootBone ? -1 : parent)),
  };
}

const sized = derivation('skeleton in size', 200, (_, skeleton: Skeleton, size: number): Skeleton => {
  const restTranslations = skeleton.restTranslations.map((v) => v * size);
  return {
    ...skeleton,
    restTranslations,
    ends: skeleton.ends.map((end) => end && [end[0] * size, end[1] * size, end[2] * size]),
    size: skeleton.size * size,
    rest: restInWorld(skeleton.parents, skeleton.restRotations, restTranslations),
  };
});

/** The skeleton so many times as large. */
export const sizedSkeleton = (skeleton: Skeleton, size: number, memory = new Memory()): Skeleton =>
  size === 1 ? skeleton : memory.recall(sized, skeleton, size);

/** Index of the joint with a role, -1 where the skeleton has none. */
export const jointOfRole = (skeleton: Skeleton, role: Role): number => skeleton.roles.indexOf(role);

/**
 * World transforms from local ones, in one pass down the hierarchy.
 *
 * @param rotations joints x 4, xyzw, relative to the parent
 * @param translations joints x 3, metres, relative to the parent
 * @param outRotations joints x 4
 * @param outPositions joints x 3, metres
 */
export function worldTransforms(
  parents: Int32Array,
  rotations: Floats,
  translations: Floats,
  outRotations: Float64Array,
  outPositions: Float64Array,
): void {
  for (let i = 0; i < parents.length; i++) {
    const parent = parents[i]!;
    const q = i * 4;
    const p = i * 3;
    const x = rotations[q]!;
    const y = rotations[q + 1]!;
    const z = rotations[q + 2]!;
    const w = rotations[q + 3]!;
    const vx = translations[p]!;
    const vy = translations[p + 1]!;
    const vz = translations[p + 2]!;
    if (parent < 0) {
      outRotations[q] = x;
      outRotations[q + 1] = y;
      outRotations[q + 2] = z;
      outRotations[q + 3] = w;
      outPositions[p] = vx;
      outPositions[p + 1] = vy;
      outPositions[p + 2] = vz;
      continue;
    }
    // quatMultiply and quatRotate, written out: this loop runs for every joint of every pose that is shown.
    const pq = parent * 4;
    const pp = parent * 3;
    const px = outRotations[pq]!;
    const py = outRotations[pq + 1]!;
    const pz = outRotations[pq + 2]!;
    const pw = outRotations[pq + 3]!;
    outRotations[q] = pw * x + px * w + py * z - pz * y;
    outRotations[q + 1] = pw * y - px * z + py * w + pz * x;
    outRotations[q + 2] = pw * z + px * y - py * x + pz * w;
    outRotations[q + 3] = pw * w - px * x - py * y - pz * z;
    const tx = 2 * (py * vz - pz * vy);
    const ty = 2 * (pz * vx - px * vz);
    const tz = 2 * (px * vy - py * vx);
    outPositions[p] = outPositions[pp]! + vx + pw * tx + py * tz - pz * ty;
    outPositions[p + 1] = outPositions[pp + 1]! + vy + pw * ty + pz * tx - px * tz;
    outPositions[p + 2] = outPositions[pp + 2]! + vz + pw * tz + px * ty - py * tx;
  }
}

/** World transforms of the rest pose: rotations (joints x 4) and positions in metres (joints x 3). */
export interface RestPose {
  readonly rotations: Float64Array;
  readonly positions: Float64Array;
}

function restInWorld(
  parents: Int32Array,
  restRotations: Float64Array,
  restTranslations: Float64Array,
): RestPose {
  const rotations = new Float64Array(parents.length * 4);
  const positions = new Float64Array(parents.length * 3);
  worldTransforms(parents, restRotations, restTranslations, rotations, positions);
  return { rotations, positions };
}

/** Height of the rest pose in metres, from the lowest to the highest joint or end site. */
export function restHeight(skeleton: Skeleton): number {
  const { positions, rotations } = skeleton.rest;
  let low = Infinity;
  let high = -Infinity;
  const _end = new Float64Array(3);
  const see = (y: number): void => {
    low = Math.min(low, y);
    high = Math.max(high, y);
  };
  skeleton.ends.forEach((end, i) => {
    see(positions[i * 3 + 1]!);
    if (!end) return;
    quatRotate(rotations, i * 4, Float64Array.from(end), 0, _end, 0);
    see(positions[i * 3 + 1]! + _end[1]!);
  });
  return high - low;
}
