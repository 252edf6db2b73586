import { InputError } from '../math/errors';
import { quatAngle, quatConjugate, quatMultiply } from '../math/quaternion';
import type { Skeleton } from '../skeleton/skeleton';
import { restPose, worldTransforms } from '../skeleton/skeleton';
import type { Clip } from './clip';

/** Rest rotations closer than this are one convention, and local rotations are carried over as they are. */
const SAME_REST_RADIANS = 1e-3;

const mapped = new WeakMap<Clip, WeakMap<Skeleton, Clip>>();

/**
 * The clip on another skeleton, joint by joint of the same name; the clip itself where the skeletons agree. Joints without a partner keep their rest pose. Computed once for a pair.
 *
 * @throws InputError `skeleton-differs` where the carrier or over half of the clip's moving joints have no partner
 */
export function clipOnSkeleton(clip: Clip, skeleton: Skeleton): Clip {
  if (clip.skeleton === skeleton || sameSkeleton(clip.skeleton, skeleton)) return clip;
  let bySkeleton = mapped.get(clip);
  if (!bySkeleton) mapped.set(clip, (bySkeleton = new WeakMap()));
  let result = bySkeleton.get(skeleton);
  if (!result) bySkeleton.set(skeleton, (result = mapClip(clip, skeleton)));
  return result;
}

/** Whether two skeletons have the same joints, hierarchy and rest pose. */
export function sameSkeleton(a: Skeleton, b: Skeleton): boolean {
  return (
    a.names.length === b.names.length &&
    a.carrier === b.carrier &&
    a.names.every((name, i) => name === b.names[i] && a.parents[i] === b.parents[i]) &&
    a.restTranslations.every((v, i) => Math.abs(v - b.restTranslations[i]!) < 1e-5) &&
    a.names.every((_, i) => quatAngle(a.restRotations, i * 4, b.restRotations, i * 4) < 1e-5)
  );
}

/** A joint's name without the prefix of a rig. */
const bare = (name: string): string => name.replace(/^.*[:|]/, '');

/** For each joint of `target` the joint of `source` of the same name, with or without a prefix; -1 for none. */
export function matchJoints(source: Skeleton, target: Skeleton): Int32Array {
  return Int32Array.from(target.names, (name) => {
    const exact = source.names.indexOf(name);
    return exact >= 0 ? exact : source.names.findIndex((other) => bare(other) === bare(name));
  });
}

function mapClip(clip: Clip, target: Skeleton): Clip {
  const source = clip.skeleton;
  const partner = matchJoints(source, target);
  const matched = partner.filter((p) => p >= 0).length;
  if (partner[target.carrier] !== source.carrier || matched < source.names.length / 2) {
    const lost = source.names.filter((_, i) => !partner.includes(i)).slice(0, 6);
    throw new InputError(
      'skeleton-differs',
      `The clip ${clip.name} moves another skeleton: ${matched} of its ${source.names.length} joints have a partner in the character.`,
      {
        place: { bone: lost[0]! },
        hint: `Use a clip of the character's own skeleton. Without a partner: ${lost.join(', ')}.`,
      },
    );
  }
  const same = Array.from(partner).every(
    (p, i) =>
      p < 0 ||
      (quatAngle(source.restRotations, p * 4, target.restRotations, i * 4) < SAME_REST_RADIANS &&
        (i === target.carrier ||
          (target.parents[i]! >= 0 && partner[target.parents[i]!] === source.parents[p]))),
  );
  const rotations = same ? copyRotations(clip, target, partner) : carryRotations(clip, target, partner);
  return {
    ...clip,
    id: `${clip.id}@${target.names.length}`,
    skeleton: target,
    rotations,
    translated: Int32Array.of(target.carrier),
    translations: scaleTravel(clip, target),
  };
}

/** The carrier's track, scaled by the ratio of the carriers' heights at rest. */
function scaleTravel(clip: Clip, target: Skeleton): Float32Array {
  const height = (s: Skeleton): number => lowest(s).height;
  const ratio = height(target) > 0 && height(clip.skeleton) > 0 ? height(target) / height(clip.skeleton) : 1;
  const out = new Float32Array(clip.frames * 3);
  const width = clip.translated.length * 3;
  for (let f = 0; f < clip.frames; f++)
    for (let k = 0; k < 3; k++) out[f * 3 + k] = clip.translations[f * width + k]! * ratio;
  return out;
}

function lowest(skeleton: Skeleton): { height: number } {
  const { positions } = restPose(skeleton);
  let low = Infinity;
  for (let i = 1; i < positions.length; i += 3) low = Math.min(low, positions[i]!);
  return { height: positions[skeleton.carrier * 3 + 1]! - low };
}

function copyRotations(clip: Clip, target: Skeleton, partner: Int32Array): Float32Array {
  const from = clip.skeleton.names.length;
  const to = target.names.length;
  const out = new Float32Array(clip.frames * to * 4);
  for (let f = 0; f < clip.frames; f++)
    for (let j = 0; j < to; j++)
      for (let k = 0; k < 4; k++)
        out[(f * to + j) * 4 + k] =
          partner[j]! >= 0
            ? clip.rotations[(f * from + partner[j]!) * 4 + k]!
            : target.restRotations[j * 4 + k]!;
  return out;
}

/**
 * Carries over each joint's world rotation away from its rest pose:
 * q_target = (q_source q_source_rest^-1) q_target_rest in world space, then relative to the parent.
 */
function carryRotations(clip: Clip, target: Skeleton, partner: Int32Array): Float32Array {
  const source = clip.skeleton;
  const from = source.names.length;
  const to = target.names.length;
  const sourceRest = restPose(source).rotations;
  const targetRest = restPose(target).rotations;
  const local = new Float64Array(from * 4);
  const world = new Float64Array(from * 4);
  const scrap = new Float64Array(from * 3);
  const wanted = new Float64Array(to * 4);
  const q = new Float64Array(4);
  const out = new Float32Array(clip.frames * to * 4);
  for (let f = 0; f < clip.frames; f++) {
    for (let i = 0; i < from * 4; i++) local[i] = clip.rotations[f * from * 4 + i]!;
    // The carrier is in scene space already: it is read as if nothing stood above it.
    worldTransforms(detached(source), local, scrap, world, scrap);
    for (let j = 0; j < to; j++) {
      const parent = target.parents[j]!;
      const p = partner[j]!;
      if (p >= 0) {
        quatConjugate(sourceRest, p * 4, q, 0);
        quatMultiply(world, p * 4, q, 0, q, 0);
        quatMultiply(q, 0, targetRest, j * 4, wanted, j * 4);
      } else if (parent >= 0) quatMultiply(wanted, parent * 4, target.restRotations, j * 4, wanted, j * 4);
      else for (let k = 0; k < 4; k++) wanted[j * 4 + k] = target.restRotations[j * 4 + k]!;
      if (j === target.carrier || parent < 0) for (let k = 0; k < 4; k++) q[k] = wanted[j * 4 + k]!;
      else {
        quatConjugate(wanted, parent * 4, q, 0);
        quatMultiply(q, 0, wanted, j * 4, q, 0);
      }
      out.set(q, (f * to + j) * 4);
    }
  }
  return out;
}

const detachedParents = new WeakMap<Skeleton, Int32Array>();

/** The parents with the carrier made a top joint. */
function detached(skeleton: Skeleton): Int32Array {
  let parents = detachedParents.get(skeleton);
  if (!parents) {
    parents = skeleton.parents.slice();
    parents[skeleton.carrier] = -1;
    detachedParents.set(skeleton, parents);
  }
  return parents;
}
