import { quatConjugate, quatMultiply, quatSlerp } from '../math/quaternion';
import type { Mask } from './mask';

const _part = new Float64Array(4);
const _identity = Float64Array.of(0, 0, 0, 1);

/** Replaces rotations below by those of a layer: q = slerp(q_below, q_layer, w m), in place. */
export function overrideRotations(below: Float64Array, layer: Float64Array, mask: Mask, w: number): void {
  for (let i = 0; i < mask.joints.length; i++) {
    const q = mask.joints[i]! * 4;
    quatSlerp(below, q, layer, q, w * mask.weights[i]!, below, q);
  }
}

/** Adds a layer's rotations away from its reference: q = q_below slerp(1, q_ref^-1 q_layer, w m), in place. */
export function addRotations(
  below: Float64Array,
  layer: Float64Array,
  reference: Float64Array,
  mask: Mask,
  w: number,
): void {
  for (let i = 0; i < mask.joints.length; i++) {
    const q = mask.joints[i]! * 4;
    quatConjugate(reference, q, _part, 0);
    quatMultiply(_part, 0, layer, q, _part, 0);
    quatSlerp(_identity, 0, _part, 0, w * mask.weights[i]!, _part, 0);
    quatMultiply(below, q, _part, 0, below, q);
  }
}

/** Goes over to the layer's places on the moving joints of the mask, or adds their way from the reference, in place. */
export function blendTranslations(
  below: Float64Array,
  layer: Float64Array,
  reference: Float64Array | null,
  moving: Int32Array,
  shares: Float64Array,
  w: number,
): Float64Array {
  for (let i = 0; i < moving.length; i++) {
    const share = w * shares[i]!;
    if (share === 0) continue;
    const p = moving[i]! * 3;
    for (let k = 0; k < 3; k++) {
      const from = reference ? reference[p + k]! : below[p + k]!;
      below[p + k]! += share * (layer[p + k]! - from);
    }
  }
  return below;
}
