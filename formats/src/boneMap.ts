import type { RoleMap } from '@warper/core';
import { InputError, QUADRUPED_ROLES, ROLES } from '@warper/core';
import { closest } from 'fastest-levenshtein';
import Joi from 'joi';

const schema = Joi.object({
  format: Joi.valid('warper-map').required(),
  version: Joi.valid(1).required(),
  roles: Joi.object().pattern(Joi.string().max(200), Joi.string().max(60).allow(null)).required(),
});

const KNOWN: readonly string[] = [...ROLES, ...QUADRUPED_ROLES];

/**
 * Checks a bone map: the user's own roles of joints, by the names that they have in the files; null takes a role away.
 *
 * @throws InputError `bone-map` with the path of what is wrong; a role that does not exist names the nearest one
 */
export function parseBoneMap(value: unknown): RoleMap {
  const { error } = schema.validate(value, { convert: false });
  if (error) {
    throw new InputError('bone-map', `The bone map is not valid: ${error.message}.`, {
      place: { path: error.details[0]!.path.join('.') },
      hint: 'It reads {"format": "warper-map", "version": 1, "roles": {"joint": "leftFoot"}}.',
    });
  }
  const { roles } = value as { roles: Record<string, string | null> };
  const taken = new Map<string, string>();
  for (const [joint, role] of Object.entries(roles)) {
    if (role === null) continue;
    if (!KNOWN.includes(role)) {
      throw new InputError('bone-map', `There is no role "${role}".`, {
        place: { path: `roles.${joint}` },
        hint: `Did you mean "${closest(role, [...KNOWN])}"?`,
      });
    }
    const other = taken.get(role);
    if (other !== undefined) {
      throw new InputError('bone-map', `${other} and ${joint} both have the role ${role}.`, {
        place: { path: `roles.${joint}` },
        hint: 'Give a role to one joint.',
      });
    }
    taken.set(role, joint);
  }
  return roles as RoleMap;
}
