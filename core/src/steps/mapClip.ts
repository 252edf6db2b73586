import { derivation, Memory } from '../memory/memory';
import { InputError } from '../math/errors';
import { quatAngle } from '../math/quaternion';
import type { Skeleton } from '../skeleton/skeleton';
import { legsOf } from '../skeleton/legs';
import { jointOfRole } from '../skeleton/skeleton';
import type { Clip } from '../clip/clip';
import { groundFeet } from './groundFeet';
import { retargetMotion } from '../clip/retarget';
import { inheritSteps } from './steps';
import { touchHands } from './touchingHands';

const carried = derivation('clip on skeleton', 500, (memory, clip: Clip, skeleton: Skeleton): Clip =>
  sameSkeleton(clip.skeleton, skeleton) ? clip : mapClip(clip, skeleton, memory),
);

/**
 * The clip on another skeleton, joint by joint of the same role or name; the clip itself where the skeletons agree. Its
 * planted feet are brought to the floor and to their steps, its hands to what they touch. Joints without a partner keep their rest pose.
 *
 * @throws InputError `skeleton-differs` where the root bone has no partner, or too few joints have one
 */
export const clipOnSkeleton = (clip: Clip, skeleton: Skeleton, memory = new Memory()): Clip =>
  clip.skeleton === skeleton ? clip : memory.recall(carried, clip, skeleton);

/**
 * Whether two skeletons have the same joints, hierarchy and rest pose. Where the root bone rests does not count: clips say at
 * every sample where it is, and BVH files often leave it at zero.
 */
export function sameSkeleton(a: Skeleton, b: Skeleton): boolean {
  return (
    a.names.length === b.names.length &&
    a.rootBone === b.rootBone &&
    a.names.every((name, i) => name === b.names[i] && a.parents[i] === b.parents[i]) &&
    a.restTranslations.every(
      (v, i) => Math.floor(i / 3) === a.rootBone || Math.abs(v - b.restTranslations[i]!) < 1e-5,
    ) &&
    a.names.every((_, i) => quatAngle(a.restRotations, i * 4, b.restRotations, i * 4) < 1e-5)
  );
}

/** A joint's name without the prefix of a rig. */
const bare = (name: string): string => name.replace(/^.*[:|]/, '');

/** For each joint of `target` the joint of `source` of the same role, else of the same name, with or without a prefix; -1 for none. */
export function matchJoints(source: Skeleton, target: Skeleton): Int32Array {
  return Int32Array.from(target.names, (name, j) => {
    const role = target.roles[j];
    const byRole = role ? jointOfRole(source, role) : -1;
    if (byRole >= 0) return byRole;
    const exact = source.names.indexOf(name);
    const match = exact >= 0 ? exact : source.names.findIndex((other) => bare(other) === bare(name));
    // A joint that stands for another part of the body is no partner, whatever it is called.
    return match >= 0 && role && source.roles[match] && source.roles[match] !== role ? -1 : match;
  });
}

/** Fewest joints with a partner with which a clip is carried over: pelvis and legs, say. */
const FEWEST_PARTNERS = 5;

function mapClip(clip: Clip, target: Skeleton, memory: Memory): Clip {
  const source = clip.skeleton;
  const partner = matchJoints(source, target);
  const matched = partner.filter((p) => p >= 0).length;
  const enough = Math.min(FEWEST_PARTNERS, Math.ceil(source.names.length / 2));
  if (partner[target.rootBone] !== source.rootBone || matched < enough) {
    const lost = source.names.filter((_, i) => !partner.includes(i)).slice(0, 6);
    throw new InputError(
      'skeleton-differs',
      `The clip ${clip.name} moves another skeleton: ${matched} of its ${source.names.length} joints have a partner in the character.`,
      {
        place: { clip: clip.id, bone: lost[0] ?? source.names[0]! },
        hint: `Use a clip of the character's own skeleton, or map its joints. Without a partner: ${lost.join(', ')}.`,
      },
    );
  }
  const { rotations, translations } = retargetMotion(clip, target, partner);
  const onTarget: Clip = {
    ...clip,
    id: `${clip.id}@${target.names.length}`,
    skeleton: target,
    rotations,
    translated: Int32Array.of(target.rootBone),
    translations,
    travelBone: undefined,
  };
  const grounded = groundFeet(
    inheritSteps(onTarget, clip, (joint) => partner.indexOf(joint), memory),
    memory,
  );
  const touching = touchHands(grounded, clip);
  return touching === grounded ? grounded : inheritSteps(touching, grounded, undefined, memory);
}

/** A clip on a skeleton that it suits: one of as many legs, whose joints it shares; null on any other. */
export function clipThatSuits(clip: Clip, skeleton: Skeleton, memory: Memory): Clip | null {
  if (legsOf(clip.skeleton).length !== legsOf(skeleton).length) return null;
  try {
    return clipOnSkeleton(clip, skeleton, memory);
  } catch (error) {
    if (error instanceof InputError) return null;
    throw error;
  }
}
