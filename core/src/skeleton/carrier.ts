import { quatConjugate, quatMultiply, quatRotate } from '../math/quaternion';
import type { Skeleton } from './skeleton';
import { jointOfRole, restPose } from './skeleton';

/** The rest transform of what is above the carrier, undone: scene space -> the carrier's parent. */
interface Above {
  readonly rotation: Float64Array;
  readonly position: Float64Array;
}

const aboves = new WeakMap<Skeleton, Above | null>();

function above(skeleton: Skeleton): Above | null {
  let found = aboves.get(skeleton);
  if (found === undefined) {
    const parent = skeleton.parents[skeleton.carrier]!;
    found = null;
    if (parent >= 0) {
      const rest = restPose(skeleton);
      const rotation = new Float64Array(4);
      quatConjugate(rest.rotations, parent * 4, rotation, 0);
      found = { rotation, position: rest.positions.slice(parent * 3, parent * 3 + 3) };
    }
    aboves.set(skeleton, found);
  }
  return found;
}

/**
 * Turns the carrier's transform in a pose from scene space into one relative to its parent, in place; the joints
 * above it keep their rest pose.
 */
export function carrierToLocal(
  skeleton: Skeleton,
  rotations: Float64Array,
  translations: Float64Array,
): void {
  const up = above(skeleton);
  if (!up) return;
  const q = skeleton.carrier * 4;
  const p = skeleton.carrier * 3;
  quatMultiply(up.rotation, 0, rotations, q, rotations, q);
  translations[p]! -= up.position[0]!;
  translations[p + 1]! -= up.position[1]!;
  translations[p + 2]! -= up.position[2]!;
  quatRotate(up.rotation, 0, translations, p, translations, p);
}

const detachedParents = new WeakMap<Skeleton, Int32Array>();

/** The parents with the carrier made a top joint, as clips keep it. */
export function carrierDetached(skeleton: Skeleton): Int32Array {
  let parents = detachedParents.get(skeleton);
  if (!parents) {
    parents = skeleton.parents.slice();
    parents[skeleton.carrier] = -1;
    detachedParents.set(skeleton, parents);
  }
  return parents;
}

/** The heading of the rest pose in radians, from its hips and shoulders; 0 without roles for them. */
export function restHeading(skeleton: Skeleton): number {
  const { positions } = restPose(skeleton);
  let [x, z] = [0, 0];
  for (const part of ['UpperLeg', 'UpperArm', 'FrontUpperLeg'] as const) {
    const left = jointOfRole(skeleton, `left${part}`);
    const right = jointOfRole(skeleton, `right${part}`);
    if (left < 0 || right < 0) continue;
    x += positions[left * 3]! - positions[right * 3]!;
    z += positions[left * 3 + 2]! - positions[right * 3 + 2]!;
  }
  return Math.hypot(x, z) < 1e-6 ? 0 : Math.atan2(-z, x);
}
