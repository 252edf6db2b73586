import type { LayerLane, Role, Skeleton } from '@warper/core';
import { defined, jointOfRole } from '@warper/core';
import { makeMask } from '@warper/core/kernels';

type Mask = LayerLane['mask'];

/** How much of a layer each joint takes, 0 to 1. */
export function maskWeights(skeleton: Skeleton, mask: Mask, softness: number): Float64Array {
  const out = new Float64Array(skeleton.names.length);
  const { joints, weights } = makeMask(skeleton, mask, softness);
  joints.forEach((joint, i) => (out[joint] = defined(weights[i])));
  return out;
}

/** What a mask calls a joint: its role, else its name. */
export const maskName = (skeleton: Skeleton, joint: number): string =>
  skeleton.roles[joint] ?? defined(skeleton.names[joint]);

/**
 * A mask with a joint taken in or out, alone or with all that hangs on it. What is said of it counts from then on, so what was said of
 * the same bones before is left out.
 */
export function maskWith(skeleton: Skeleton, mask: Mask, joint: number, chain: boolean, isIn: boolean): Mask {
  const name = maskName(skeleton, joint);
  const covered = new Set([joint]);
  if (chain)
    skeleton.parents.forEach((parent, j) => {
      if (covered.has(parent)) covered.add(j);
    });
  const names = new Set([...covered].map((j) => maskName(skeleton, j)));
  // The whole body, as something that a part can be taken out of.
  const whole = [{ bone: `${maskName(skeleton, skeleton.rootBone)}*`, weight: 1 }];
  const before = mask.length > 0 ? mask : isIn ? [] : whole;
  const kept = before.filter(({ bone }) => {
    const isChain = bone.endsWith('*');
    const own = isChain ? bone.slice(0, -1) : bone;
    return !names.has(own) || (isChain && !chain);
  });
  const entry = { bone: chain ? `${name}*` : name, weight: isIn ? 1 : 0 };
  // Out of nothing nothing has to be taken.
  return isIn || kept.length > 0 ? [...kept, entry] : [entry];
}

/** Parts of the body that are often masked: their name and the roles that their chains begin with. */
const PARTS: readonly (readonly [string, readonly Role[]])[] = [
  ['Upper body', ['spine']],
  ['Lower body', ['leftUpperLeg', 'rightUpperLeg']],
  ['Left arm', ['leftUpperArm']],
  ['Right arm', ['rightUpperArm']],
  ['Both hands', ['leftHand', 'rightHand']],
  ['Head and neck', ['neck']],
];

/** The masks that can be chosen by name, of those parts that the body has. */
export function maskPresets(skeleton: Skeleton): readonly { readonly name: string; readonly mask: Mask }[] {
  const parts = PARTS.filter(([, roles]) => roles.every((role) => jointOfRole(skeleton, role) >= 0));
  const below = skeleton.parents.reduce<string[]>(
    (list, parent, j) => (parent === skeleton.rootBone ? [...list, maskName(skeleton, j)] : list),
    [],
  );
  return [
    { name: 'Whole body', mask: [] },
    ...parts.map(([name, roles]) => ({ name, mask: roles.map((role) => ({ bone: `${role}*`, weight: 1 })) })),
    { name: 'All but the hips', mask: below.map((bone) => ({ bone: `${bone}*`, weight: 1 })) },
  ];
}
