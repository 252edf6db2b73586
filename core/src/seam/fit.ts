import type { FloorMove } from '../math/floorMove';
import { composeMoves, invertMove } from '../math/floorMove';

/** The floor move that puts place b (with its heading) onto place a; without the turn if `keepDirection`. */
export function fitPlaces(a: FloorMove, b: FloorMove, keepDirection = false): FloorMove {
  if (keepDirection) return { x: a.x - b.x, z: a.z - b.z, turn: 0 };
  return composeMoves(a, invertMove(b));
}

/**
 * Applies the user's nudge n after a fit T, in the incoming root's own directions (x left, z forward):
 * T' = G n G^-1 T with G = T root.
 */
export function nudgeFit(fit: FloorMove, incomingRoot: FloorMove, nudge: FloorMove): FloorMove {
  const g = composeMoves(fit, incomingRoot);
  return composeMoves(composeMoves(composeMoves(g, nudge), invertMove(g)), fit);
}
