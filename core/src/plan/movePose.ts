import type { ScenePose } from '../clip/pose';
import { multiplyMoves } from '../math/floorMove';
import { quatTurn } from '../math/quaternion';

/** Applies a packed floor move (x, z, turn) to x and z at `p[o]` and `p[o + 2]`. */
export function movePoint(move: Float64Array, p: Float64Array, o: number): void {
  const s = Math.sin(move[2]!);
  const c = Math.cos(move[2]!);
  const x = p[o]!;
  const z = p[o + 2]!;
  p[o] = move[0]! + x * c + z * s;
  p[o + 2] = move[1]! - x * s + z * c;
}

/** Moves a pose with its root over the floor. */
export function movePose(move: Float64Array, out: ScenePose, rootBone: number): void {
  quatTurn(out.rotations, rootBone * 4, move[2]!);
  movePoint(move, out.translations, rootBone * 3);
  multiplyMoves(move, 0, out.root, 0, out.root, 0);
}
