import type { RoleMap } from '@warper/core';
import { hashBytes } from './hash';
import type { Body, ReadOptions } from './imported';

/** What tells one skeleton from another: the names of its joints and how they hang together, whatever their lengths. */
export const skeletonSignature = (names: readonly string[], parents: ArrayLike<number>): string =>
  hashBytes(new TextEncoder().encode(JSON.stringify(names.map((name, i) => [name, parents[i]]))));

/** The user's own roles for a skeleton: those kept for its signature, and over them those given for the file. */
export const ownRoles = (
  names: readonly string[],
  parents: ArrayLike<number>,
  { roles, mapped }: Pick<ReadOptions, 'roles' | 'mapped'>,
): RoleMap => ({ ...mapped?.(skeletonSignature(names, parents)), ...roles });

/** The kept roles that bodies of a file were read with, joint by joint; undefined where there were none. */
export function mappedRoles(
  bodies: readonly Pick<Body, 'signature'>[],
  { mapped }: Pick<ReadOptions, 'mapped'>,
): RoleMap | undefined {
  const used = bodies.flatMap((b): RoleMap[] => {
    const roles = mapped?.(b.signature);
    return roles ? [roles] : [];
  });
  return used.length > 0 ? Object.assign({}, ...used) : undefined;
}
