import { quatConjugate, quatMultiply, quatNormalize, quatRotate } from '../math/quaternion';
import type { Role } from '../skeleton/roles';
import { restHeading } from '../skeleton/rootBone';
import type { Skeleton } from '../skeleton/skeleton';
import { worldTransforms } from '../skeleton/skeleton';
import type { Clip } from './clip';

/** For each joint its counterpart on the other side, itself on the centre line: by role, else by a side in its name. */
export function mirrorPartners(skeleton: Skeleton): Int32Array {
  const { names, roles } = skeleton;
  const partners = Int32Array.from(names, (name, j) => {
    const role = roles[j];
    const other = role ? roles.indexOf(otherSide(role) as Role) : names.indexOf(otherSide(name));
    return other >= 0 ? other : j;
  });
  // A counterpart that does not point back is none: names are not always kept strictly.
  return partners.map((p, j) => (partners[p] === j ? p : j));
}

const SWAPS: readonly (readonly [RegExp, string])[] = [
  [/left/, 'right'],
  [/right/, 'left'],
  [/Left/, 'Right'],
  [/Right/, 'Left'],
  [/(^|[_.\-\s])l(?=[_.\-\s]|$)/, '$1r'],
  [/(^|[_.\-\s])r(?=[_.\-\s]|$)/, '$1l'],
  [/(^|[_.\-\s])L(?=[_.\-\s]|$)/, '$1R'],
  [/(^|[_.\-\s])R(?=[_.\-\s]|$)/, '$1L'],
];

function otherSide(name: string): string {
  const swap = SWAPS.find(([side]) => side.test(name));
  return swap ? name.replace(swap[0], swap[1]) : name;
}

/** Reflects a rotation in the plane x = 0: (x, -y, -z, w). */
function reflect(q: Float64Array, o: number): void {
  q[o + 1] = -q[o + 1]!;
  q[o + 2] = -q[o + 2]!;
}

/**
 * The motion with left and right swapped: in world space every joint takes the reflection, in the plane through the middle
 * of the rest pose, of its counterpart's rotation away from rest. Rest poses need not be symmetric, nor bones have the
 * same axes on both sides; twice mirrored, a motion is itself. Steps stay as they are: `mirrorClip` swaps them.
 */
export function mirrorMotion(clip: Clip): Clip {
  const { skeleton, frames } = clip;
  const joints = skeleton.names.length;
  const partner = mirrorPartners(skeleton);
  const parents = skeleton.detachedParents;
  const rest = skeleton.rest.rotations;
  const plane = halfTurn(restHeading(skeleton));
  const local = new Float64Array(joints * 4);
  const world = new Float64Array(joints * 4);
  const scrap = new Float64Array(joints * 3);
  const wanted = new Float64Array(joints * 4);
  const q = new Float64Array(4);
  const rotations = new Float32Array(clip.rotations.length);
  for (let f = 0; f < frames; f++) {
    for (let i = 0; i < joints * 4; i++) local[i] = clip.rotations[f * joints * 4 + i]!;
    worldTransforms(parents, local, scrap, world, scrap);
    for (let j = 0; j < joints; j++) {
      const p = partner[j]!;
      quatConjugate(rest, p * 4, q, 0);
      quatMultiply(world, p * 4, q, 0, q, 0);
      reflectIn(plane, q);
      quatMultiply(q, 0, rest, j * 4, wanted, j * 4);
      if (parents[j]! >= 0) {
        quatConjugate(wanted, parents[j]! * 4, q, 0);
        quatMultiply(q, 0, wanted, j * 4, q, 0);
      } else q.set(wanted.subarray(j * 4, j * 4 + 4));
      quatNormalize(q, 0);
      rotations.set(q, (f * joints + j) * 4);
    }
  }
  const translations = mirrorTranslations(clip, partner, plane);
  const travelBone = clip.travelBone && {
    ...clip.travelBone,
    root: mirrorRoots(clip.travelBone.root, restHeading(skeleton)),
  };
  return { ...clip, id: `${clip.id}~mirrored`, rotations, translations, travelBone };
}

/** Places and headings of a root, reflected in the middle plane of a body that faces `heading`. */
function mirrorRoots(root: Float64Array, heading: number): Float64Array {
  const [s, c] = [Math.sin(2 * heading), Math.cos(2 * heading)];
  return root.map((v, i) => {
    if (i % 3 === 2) return 2 * heading - v;
    const [x, z] = [root[i - (i % 3)]!, root[i - (i % 3) + 1]!];
    return i % 3 === 0 ? s * z - c * x : s * x + c * z;
  });
}

/** The rotation by which the plane of reflection stands away from x = 0. */
function halfTurn(heading: number): Float64Array {
  return Float64Array.of(0, Math.sin(heading / 2), 0, Math.cos(heading / 2));
}

/** Reflects a world rotation in the plane turned by `plane`: P S(P^-1 q P) P^-1. */
function reflectIn(plane: Float64Array, q: Float64Array): void {
  const undo = Float64Array.of(0, -plane[1]!, 0, plane[3]!);
  quatMultiply(undo, 0, q, 0, q, 0);
  quatMultiply(q, 0, plane, 0, q, 0);
  reflect(q, 0);
  quatMultiply(plane, 0, q, 0, q, 0);
  quatMultiply(q, 0, undo, 0, q, 0);
}

/**
 * Reflected places: the root bone's in scene space; of other moving joints the way from their rest place, from the
 * counterpart's, through the rest rotations of their parents. A counterpart that does not move leaves a joint at rest.
 */
function mirrorTranslations(clip: Clip, partner: Int32Array, plane: Float64Array): Float32Array {
  const { skeleton, translated, frames } = clip;
  const rest = skeleton.rest.rotations;
  const out = new Float32Array(clip.translations.length);
  const width = translated.length * 3;
  const v = new Float64Array(3);
  const q = new Float64Array(4);
  const undo = Float64Array.of(0, -plane[1]!, 0, plane[3]!);
  translated.forEach((joint, i) => {
    const from = i === 0 ? 0 : translated.indexOf(partner[joint]!);
    const other = translated[from]!;
    for (let f = 0; f < frames; f++) {
      for (let k = 0; k < 3; k++) {
        const moved = from < 0 ? 0 : clip.translations[f * width + from * 3 + k]!;
        v[k] = i === 0 ? moved : from < 0 ? 0 : moved - skeleton.restTranslations[other * 3 + k]!;
      }
      if (i > 0 && from >= 0) quatRotate(rest, skeleton.parents[other]! * 4, v, 0, v, 0);
      quatRotate(undo, 0, v, 0, v, 0);
      v[0] = -v[0]!;
      quatRotate(plane, 0, v, 0, v, 0);
      if (i > 0) {
        quatConjugate(rest, skeleton.parents[joint]! * 4, q, 0);
        quatRotate(q, 0, v, 0, v, 0);
      }
      for (let k = 0; k < 3; k++)
        out[f * width + i * 3 + k] = v[k]! + (i === 0 ? 0 : skeleton.restTranslations[joint * 3 + k]!);
    }
  });
  return out;
}
