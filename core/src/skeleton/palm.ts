import { quatConjugate, quatRotate } from '../math/quaternion';
import type { Skeleton } from './skeleton';
import { jointOfRole } from './skeleton';

/** Share of the way to the knuckles at which a handle lies in the hand, and how far it is off the bones, of that way. */
const ALONG = 0.95;
const OFF = 0.3;
/** The same of a hand without fingers, in forearms. */
const BARE = 0.3;

/**
 * Where something that is gripped lies in a hand: x, y, z in metres in the axes of the hand's joint; on the side of the palm, just before the
 * knuckles. Of any other joint it is the joint itself.
 */
export function palmOf(skeleton: Skeleton, joint: number): [number, number, number] {
  const role = skeleton.roles[joint];
  const side = role === 'leftHand' ? 'left' : role === 'rightHand' ? 'right' : null;
  if (!side) return [0, 0, 0];
  const { positions, rotations } = skeleton.rest;
  const from = (j: number): Float64Array =>
    Float64Array.from([0, 1, 2], (k) => positions[j * 3 + k]! - positions[joint * 3 + k]!);
  const [middle, index, little] = (['Middle', 'Index', 'Little'] as const).map((finger) =>
    jointOfRole(skeleton, `${side}${finger}Proximal`),
  ) as [number, number, number];
  const out = new Float64Array(3);
  if (Math.min(middle, index, little) >= 0) {
    const along = from(middle);
    const [a, b] = [from(index), from(little)];
    const across = b.map((v, k) => v - a[k]!);
    const normal = cross(across, along);
    const length = Math.hypot(...along);
    const off = ((side === 'left' ? 1 : -1) * OFF * length) / (Math.hypot(...normal) || 1);
    for (let k = 0; k < 3; k++) out[k] = ALONG * along[k]! + off * normal[k]!;
  } else {
    const arm = from(skeleton.parents[joint]!);
    for (let k = 0; k < 3; k++) out[k] = -BARE * arm[k]!;
  }
  const back = quatConjugate(rotations, joint * 4, new Float64Array(4), 0);
  quatRotate(back, 0, out, 0, out, 0);
  return [out[0]!, out[1]!, out[2]!];
}

const cross = (a: Float64Array, b: Float64Array): Float64Array =>
  Float64Array.of(
    a[1]! * b[2]! - a[2]! * b[1]!,
    a[2]! * b[0]! - a[0]! * b[2]!,
    a[0]! * b[1]! - a[1]! * b[0]!,
  );
