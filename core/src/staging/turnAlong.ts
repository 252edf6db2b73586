import { quatConjugate, quatMultiply, quatNormalize } from '../math/quaternion';
import type { PerAxis } from '../scene/tether';

const _inverse = new Float64Array(4);
/** Below this sine of half an angle a rotation has no axis to speak of. */
const NO_AXIS = 1e-12;

/**
 * Leaves of a rotation what turns about some axes: of one, its twist (swing-twist decomposition); of two, the parts of its rotation vector
 * along them.
 *
 * @param q xyzw from `o`, changed in place
 * @param axes how the axes are turned in the scene, xyzw
 */
export function turnAlong(q: Float64Array, o: number, axes: Float64Array, turns: PerAxis<boolean>): void {
  if (turns[0] && turns[1] && turns[2]) return;
  const count = turns.filter(Boolean).length;
  if (count === 0) {
    q.fill(0, o, o + 3);
    q[o + 3] = 1;
    return;
  }
  quatConjugate(axes, 0, _inverse, 0);
  quatMultiply(_inverse, 0, q, o, q, o);
  quatMultiply(q, o, axes, 0, q, o);
  if (q[o + 3]! < 0) for (let k = 0; k < 4; k++) q[o + k]! *= -1;
  if (count === 1) keepTwist(q, o, turns);
  else keepParts(q, o, turns);
  quatMultiply(axes, 0, q, o, q, o);
  quatMultiply(q, o, _inverse, 0, q, o);
}

function keepTwist(q: Float64Array, o: number, turns: PerAxis<boolean>): void {
  for (let k = 0; k < 3; k++) if (!turns[k]) q[o + k] = 0;
  if (Math.hypot(q[o]!, q[o + 1]!, q[o + 2]!, q[o + 3]!) < NO_AXIS) q[o + 3] = 1;
  quatNormalize(q, o);
}

function keepParts(q: Float64Array, o: number, turns: PerAxis<boolean>): void {
  const s = Math.hypot(q[o]!, q[o + 1]!, q[o + 2]!);
  const angle = s < NO_AXIS ? 0 : (2 * Math.atan2(s, q[o + 3]!)) / s;
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    q[o + k] = turns[k] ? q[o + k]! * angle : 0;
    sum += q[o + k]! ** 2;
  }
  const left = Math.sqrt(sum);
  const part = left < NO_AXIS ? 0 : Math.sin(left / 2) / left;
  for (let k = 0; k < 3; k++) q[o + k]! *= part;
  q[o + 3] = Math.cos(left / 2);
}
