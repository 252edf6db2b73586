import type { Doubt, Role, RoleMap, Skeleton } from '@warper/core';
import { QUADRUPED_ROLES, ROLES, findDoubts, matchJoints, defined } from '@warper/core';

/** How a bone of the clip stands to the character. */
export type BoneState = 'mapped' | 'doubtful' | 'unmapped';

/** One bone of the clip's skeleton: what it is, which bone of the character follows it, and what is doubtful. */
export interface BoneRow {
  readonly joint: number;
  readonly name: string;
  readonly role: Role | null;
  readonly byHand: boolean;
  /** Bone of the character, -1 for none. */
  readonly partner: number;
  readonly state: BoneState;
  /** What speaks against its role; empty where nothing does. */
  readonly doubt: string;
}

/** Every part of a body that a bone can be. */
export const ALL_ROLES: readonly Role[] = [...ROLES, ...QUADRUPED_ROLES];

/** How each bone of `source` is mapped onto `target`, in the order of the skeleton. */
export function boneRows(source: Skeleton, target: Skeleton, roles: RoleMap): BoneRow[] {
  const followed = new Map<number, number>();
  matchJoints(source, target).forEach((from, to) => {
    if (from >= 0 && !followed.has(from)) followed.set(from, to);
  });
  const doubts = new Map<number, Doubt>();
  for (const doubt of findDoubts(source)) if (!doubts.has(doubt.joint)) doubts.set(doubt.joint, doubt);
  return source.names.map((name, joint): BoneRow => {
    const partner = followed.get(joint) ?? -1;
    const doubt = doubts.get(joint)?.message ?? '';
    return {
      joint,
      name,
      role: source.roles[joint] ?? null,
      byHand: name in roles,
      partner,
      state: doubt ? 'doubtful' : partner >= 0 ? 'mapped' : 'unmapped',
      doubt,
    };
  });
}

/** Bones of `target` that follow none of `source`, and keep their rest pose. */
export function restingBones(source: Skeleton, target: Skeleton): string[] {
  const partner = matchJoints(source, target);
  return target.names.filter((_, j) => defined(partner[j]) < 0);
}

/** The user's roles with one more: who had the role before is left without one. */
export function giveRole(roles: RoleMap, skeleton: Skeleton, joint: string, role: Role | null): RoleMap {
  const given: Record<string, Role | null> = { ...roles, [joint]: role };
  if (role)
    skeleton.names.forEach((name, i) => {
      if (name !== joint && (name in given ? given[name] : skeleton.roles[i]) === role) given[name] = null;
    });
  return given;
}
