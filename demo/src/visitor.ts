import type { Clip, Skeleton } from '@warper/core';
import { makeSkeleton } from '@warper/core';
import type { Build, Joint, Side } from './build';
import { FINGERS, buildOf, fingerJoints, skeletonOf } from './build';

/** The Visitor: smaller, with a longer trunk, shorter legs and narrower shoulders. */
export const VISITOR: Build = {
  ...buildOf(1.63),
  thigh: 0.23 * 1.63,
  shank: 0.236 * 1.63,
  ankleHeight: 0.043 * 1.63,
  hipHalf: 0.056 * 1.63,
  shoulderHalf: 0.094 * 1.63,
  upperArm: 0.175 * 1.63,
  lowerArm: 0.152 * 1.63,
};

/** The joints by their H-Anim names (ISO/IEC 19774-1). */
const H_ANIM: Readonly<Record<Joint, string>> = {
  hips: 'sacroiliac',
  spine: 'vl5',
  chest: 'vt10',
  upperChest: 'vt1',
  neck: 'vc4',
  head: 'skullbase',
  ...sided('left', 'l'),
  ...sided('right', 'r'),
} as Record<Joint, string>;

function sided(side: Side, s: string): Record<string, string> {
  return {
    [`${side}Shoulder`]: `${s}_sternoclavicular`,
    [`${side}UpperArm`]: `${s}_shoulder`,
    [`${side}LowerArm`]: `${s}_elbow`,
    [`${side}Hand`]: `${s}_radiocarpal`,
    [`${side}UpperLeg`]: `${s}_hip`,
    [`${side}LowerLeg`]: `${s}_knee`,
    [`${side}Foot`]: `${s}_talocrural`,
    [`${side}Toes`]: `${s}_metatarsophalangeal_2`,
    ...fingers(side, s),
  };
}

/** The joints of the fingers, which H-Anim counts from the thumb. */
function fingers(side: Side, s: string): Record<string, string> {
  const out: Record<string, string> = {};
  FINGERS.forEach((finger, i) => {
    const names =
      finger === 'Thumb'
        ? ['carpometacarpal', 'metacarpophalangeal', 'carpal_interphalangeal']
        : ['metacarpophalangeal', 'carpal_proximal_interphalangeal', 'carpal_distal_interphalangeal'];
    fingerJoints(side, finger).forEach((joint, bone) => (out[joint] = `${s}_${names[bone]!}_${i + 1}`));
  });
  return out;
}

/** The Visitor's skeleton: the usual joints under other names. */
export function visitorSkeleton(): Skeleton {
  const skeleton = skeletonOf(VISITOR);
  return makeSkeleton({
    names: skeleton.names.map((n) => H_ANIM[n as Joint]),
    parents: skeleton.parents,
    restTranslations: skeleton.restTranslations,
    ends: skeleton.ends,
  });
}

/** A clip of the same joints on the skeleton with the other names. */
export const underOtherNames = (clip: Clip, skeleton: Skeleton): Clip => ({ ...clip, skeleton });
