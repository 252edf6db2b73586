import type { FloorMove } from './floorMove';

/** Horizontal spread (metres, root mean square) below which a cloud of points has no direction of its own. */
const NO_SPREAD = 1e-6;

/**
 * The floor move T that brings the incoming points onto the outgoing ones: minimises sum w |p - T p'|^2 over a
 * turn about the vertical and a move on the floor, in closed form (Kovar, Gleicher, Pighin, "Motion Graphs",
 * SIGGRAPH 2002, section 3.1).
 *
 * @param outgoing points x 3, metres
 * @param incoming points x 3, metres
 * @param weights one for each point
 * @param keepDirection true leaves the turn at zero and solves the move alone
 * @returns null where the points have no horizontal spread, so that no direction follows from them
 */
export function fitPoints(
  outgoing: Float64Array,
  incoming: Float64Array,
  weights: Float64Array,
  keepDirection = false,
): FloorMove | null {
  let W = 0;
  let X = 0;
  let Z = 0;
  let X2 = 0;
  let Z2 = 0;
  for (let i = 0; i < weights.length; i++) {
    const w = weights[i]!;
    W += w;
    X += w * outgoing[i * 3]!;
    Z += w * outgoing[i * 3 + 2]!;
    X2 += w * incoming[i * 3]!;
    Z2 += w * incoming[i * 3 + 2]!;
  }
  if (!(W > 0)) return null;
  if (keepDirection) return { x: (X - X2) / W, z: (Z - Z2) / W, turn: 0 };
  // The sums are taken about the means, which is the paper's formula without its loss of digits far away.
  let cross = 0;
  let dot = 0;
  let spread = 0;
  for (let i = 0; i < weights.length; i++) {
    const w = weights[i]!;
    const x = outgoing[i * 3]! - X / W;
    const z = outgoing[i * 3 + 2]! - Z / W;
    const x2 = incoming[i * 3]! - X2 / W;
    const z2 = incoming[i * 3 + 2]! - Z2 / W;
    cross += w * (x * z2 - x2 * z);
    dot += w * (x * x2 + z * z2);
    spread += w * (x2 * x2 + z2 * z2);
  }
  if (Math.hypot(cross, dot) < NO_SPREAD * NO_SPREAD * W || spread < NO_SPREAD * NO_SPREAD * W) return null;
  const turn = Math.atan2(cross, dot);
  const c = Math.cos(turn);
  const s = Math.sin(turn);
  return { x: (X - X2 * c - Z2 * s) / W, z: (Z + X2 * s - Z2 * c) / W, turn };
}

/**
 * Root mean square distance in metres of two clouds under a floor move of the incoming one, height included: the
 * measure of how alike two poses are (same paper, section 3.1).
 */
export function cloudDistance(
  outgoing: Float64Array,
  incoming: Float64Array,
  weights: Float64Array,
  move: FloorMove,
): number {
  const c = Math.cos(move.turn);
  const s = Math.sin(move.turn);
  let total = 0;
  let W = 0;
  for (let i = 0; i < weights.length; i++) {
    const x = incoming[i * 3]!;
    const z = incoming[i * 3 + 2]!;
    const dx = outgoing[i * 3]! - (move.x + x * c + z * s);
    const dy = outgoing[i * 3 + 1]! - incoming[i * 3 + 1]!;
    const dz = outgoing[i * 3 + 2]! - (move.z - x * s + z * c);
    total += weights[i]! * (dx * dx + dy * dy + dz * dz);
    W += weights[i]!;
  }
  return Math.sqrt(total / W);
}
