import { quatConjugate, quatMultiply, quatRotate } from '../math/quaternion';
import type { Skeleton } from './skeleton';
import { restPose } from './skeleton';

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
