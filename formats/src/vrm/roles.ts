import type { Role } from '@warper/core';
import { ROLES } from '@warper/core';

/** What VRM 0.x calls the joints of the thumb; all other names are those of VRM 1.0. */
const THUMB: Readonly<Record<string, string>> = {
  ThumbProximal: 'ThumbMetacarpal',
  ThumbIntermediate: 'ThumbProximal',
};

const known: ReadonlySet<string> = new Set(ROLES);

const objectOf = (value: unknown): Record<string, unknown> =>
  typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : {};

/**
 * The roles that a VRM model or animation gives to nodes, by number: `VRMC_vrm` and `VRMC_vrm_animation` (VRM Consortium, 1.0), and `VRM`
 * (0.x), of which the thumb's joints are called otherwise. What is no role, or no number, is passed over.
 *
 * @param json the document of a glTF file
 */
export function vrmRoles(json: Readonly<Record<string, unknown>>): ReadonlyMap<number, Role> {
  const extensions = objectOf(json.extensions);
  const roles = new Map<number, Role>();
  const take = (name: unknown, node: unknown): void => {
    if (Number.isInteger(node) && known.has(String(name))) roles.set(node as number, name as Role);
  };
  for (const extension of ['VRMC_vrm', 'VRMC_vrm_animation']) {
    const { humanBones } = objectOf(objectOf(extensions[extension]).humanoid);
    for (const [name, bone] of Object.entries(objectOf(humanBones))) take(name, objectOf(bone).node);
  }
  const { humanBones } = objectOf(objectOf(extensions.VRM).humanoid);
  if (Array.isArray(humanBones))
    for (const bone of humanBones) {
      const { bone: name, node } = objectOf(bone);
      take(
        String(name).replace(
          /^(left|right)(Thumb\w+)$/,
          (_, side: string, thumb: string) => side + (THUMB[thumb] ?? thumb),
        ),
        node,
      );
    }
  return roles;
}
