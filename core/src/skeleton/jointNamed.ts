import type { Limb } from './reach';
import { limbEndingAt } from './limbs';
import type { Role } from './roles';
import type { Skeleton } from './skeleton';
import { jointOfRole } from './skeleton';

/** A joint by its role, else by its name; -1 where the body has none. */
export function jointNamed({ roles, names }: Skeleton, name: string): number {
  const byRole = roles.indexOf(name as Role);
  return byRole >= 0 ? byRole : names.indexOf(name);
}

/** The joint that is asked for by role or name; the root bone for null, and where the body has none of that name. */
export function jointOrRoot(skeleton: Skeleton, name: string | null): number {
  const joint = name === null ? -1 : jointNamed(skeleton, name);
  return joint < 0 ? skeleton.rootBone : joint;
}

/** The limb that a hand or foot ends, by its role; on four legs a front paw stands for a hand. Null where the body has none. */
export function limbNamed(skeleton: Skeleton, role: Role): Limb | null {
  const own = limbEndingAt(skeleton, jointOfRole(skeleton, role));
  if (own || !role.endsWith('Hand')) return own;
  return limbEndingAt(skeleton, jointOfRole(skeleton, role.replace('Hand', 'FrontPaw') as Role));
}
