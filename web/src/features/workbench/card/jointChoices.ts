import type { Skeleton } from '@warper/core';
import { defined, isFineRole, roleWords } from '@warper/core';
import type { Option } from '../../../ui/Select';

/** Stands for the body as a whole among joints. */
export const WHOLE = '';

/** A joint by its role, or else by its name, as documents write it. */
export const jointName = (skeleton: Skeleton, joint: number): string =>
  skeleton.roles[joint] ?? defined(skeleton.names[joint]);

/** What a joint is called: by its role in words, or else by its name, "leftGrip" as two words. */
export function jointWords(skeleton: Skeleton, name: string | null): string {
  if (name === null) return 'whole body';
  const role = skeleton.roles.find((r) => r === name);
  if (role) return roleWords(role);
  return /^[a-z]+([A-Z][a-z]+)+$/.test(name)
    ? name.replace(/[A-Z]/g, (capital) => ` ${capital.toLowerCase()}`)
    : name;
}

/** The joints of a body to choose from, those of fingers and face last. */
export function jointChoices(skeleton: Skeleton, whole: string): Option<string>[] {
  const joints = skeleton.names.map((_, j) => {
    const role = skeleton.roles[j];
    return { name: jointName(skeleton, j), isFine: role ? isFineRole(role) : false };
  });
  const sorted = [...joints.filter((j) => !j.isFine), ...joints.filter((j) => j.isFine)];
  return [[WHOLE, whole], ...sorted.map(({ name }) => [name, jointWords(skeleton, name)] as const)];
}
