import { isFineRole } from '../skeleton/roles';
import type { Skeleton } from '../skeleton/skeleton';
import type { WorldPose } from './pose';

/**
 * The joints whose places stand for a pose when two are compared: those with roles, without fingers and face; all
 * joints where fewer than three have roles.
 */
export function cloudJoints(skeleton: Skeleton): readonly number[] {
  const all = skeleton.names.map((_, i) => i);
  const withRoles = all.filter((i) => skeleton.roles[i] && !isFineRole(skeleton.roles[i]));
  return withRoles.length >= 3 ? withRoles : all;
}

/** Writes the places of the given joints (x 3, metres) from a world pose to `out[at..]`; returns the next offset. */
export function writeCloud(
  world: WorldPose,
  joints: readonly number[],
  out: Float64Array,
  at: number,
): number {
  let o = at;
  for (const joint of joints) {
    out[o++] = world.positions[joint * 3]!;
    out[o++] = world.positions[joint * 3 + 1]!;
    out[o++] = world.positions[joint * 3 + 2]!;
  }
  return o;
}
