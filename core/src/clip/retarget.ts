import {
  quatConjugate,
  quatFromArc,
  quatMultiply,
  quatNormalize,
  quatRotate,
  quatSlerp,
} from '../math/quaternion';
import { restHeading } from '../skeleton/rootBone';
import { legLength } from '../skeleton/legs';
import type { Role } from '../skeleton/roles';
import type { Skeleton } from '../skeleton/skeleton';
import { jointOfRole, worldTransforms } from '../skeleton/skeleton';
import type { Clip } from './clip';

/** The bone that shows a joint's direction: from it to the next one of its limb. */
const NEXT: Readonly<Record<string, string>> = {
  UpperLeg: 'LowerLeg',
  LowerLeg: 'Foot',
  UpperArm: 'LowerArm',
  LowerArm: 'Hand',
  FrontUpperLeg: 'FrontLowerLeg',
  FrontLowerLeg: 'FrontPaw',
};

/** Joints that take over the turn of the limb that they hang on, so that hands and fingers stay in line with the arm. */
const HANGS_ON: Readonly<Record<string, string>> = { Hand: 'LowerArm' };

/** The chain that may have another number of bones in both bodies. */
const TRUNK: readonly Role[] = ['spine', 'chest', 'upperChest'];

/** What a target joint's rotation is taken from: between two source joints, and what is put in front of its rest. */
interface Source {
  readonly from: number;
  readonly to: number;
  readonly t: number;
  /** World rotation that takes the target's rest direction to the source's, 4 numbers. */
  readonly align: Float64Array;
}

/**
 * Carries a motion over to another skeleton: each joint takes the source joint's world rotation away from its rest pose,
 * after both rest poses are turned to heading 0 and their limbs brought to the same directions:
 * q_target = (q_source q_source_rest^-1) align q_target_rest. Trunks of another number of bones share the source's turns
 * out along the chain. The hips go where the middle of the hip joints comes to lie at the ratio of the leg lengths.
 *
 * @param partner for each joint of `target` its partner in the clip's skeleton, -1 for none
 * @returns frames x target joints x 4, and frames x 3 of the root bone
 */
export function retargetMotion(
  clip: Clip,
  target: Skeleton,
  partner: Int32Array,
): { rotations: Float32Array; translations: Float32Array } {
  const source = clip.skeleton;
  const sources = sourcesOf(source, target, partner);
  const parents = target.detachedParents;
  const sourceParents = source.detachedParents;
  const restInverse = inverseRest(source);
  const [from, to] = [source.names.length, target.names.length];
  const local = new Float64Array(from * 4);
  const world = new Float64Array(from * 4);
  const scrap = new Float64Array(from * 3);
  const away = new Float64Array(from * 4);
  const wanted = new Float64Array(to * 4);
  const q = new Float64Array(4);
  const rest = turnedRest(target, -restHeading(target));
  const ratio = sizeRatio(source, target);
  const hips = { source: socketOffset(source), target: socketOffset(target) };
  const rotations = new Float32Array(clip.frames * to * 4);
  const translations = new Float32Array(clip.frames * 3);
  const width = clip.translated.length * 3;
  const place = new Float64Array(6);
  for (let f = 0; f < clip.frames; f++) {
    for (let i = 0; i < from * 4; i++) local[i] = clip.rotations[f * from * 4 + i]!;
    worldTransforms(sourceParents, local, scrap, world, scrap);
    for (let i = 0; i < from; i++) quatMultiply(world, i * 4, restInverse, i * 4, away, i * 4);
    for (let j = 0; j < to; j++) {
      const s = sources[j];
      const parent = parents[j]!;
      if (s) {
        quatSlerp(away, s.from * 4, away, s.to * 4, s.t, q, 0);
        quatMultiply(q, 0, s.align, 0, q, 0);
        quatMultiply(q, 0, rest, j * 4, wanted, j * 4);
      } else if (parent >= 0) quatMultiply(wanted, parent * 4, target.restRotations, j * 4, wanted, j * 4);
      else for (let k = 0; k < 4; k++) wanted[j * 4 + k] = target.restRotations[j * 4 + k]!;
      if (parent < 0) for (let k = 0; k < 4; k++) q[k] = wanted[j * 4 + k]!;
      else {
        quatConjugate(wanted, parent * 4, q, 0);
        quatMultiply(q, 0, wanted, j * 4, q, 0);
      }
      quatNormalize(q, 0);
      rotations.set(q, (f * to + j) * 4);
    }
    quatRotate(world, source.rootBone * 4, hips.source, 0, place, 0);
    quatRotate(wanted, target.rootBone * 4, hips.target, 0, place, 3);
    for (let k = 0; k < 3; k++)
      translations[f * 3 + k] = ratio * (clip.translations[f * width + k]! + place[k]!) - place[k + 3]!;
  }
  return { rotations, translations };
}

/** World rest rotations with the whole body turned about the vertical. */
function turnedRest(skeleton: Skeleton, turn: number): Float64Array {
  const out = skeleton.rest.rotations.slice();
  const about = Float64Array.of(0, Math.sin(turn / 2), 0, Math.cos(turn / 2));
  for (let o = 0; o < out.length; o += 4) quatMultiply(about, 0, out, o, out, o);
  return out;
}

/** Inverse world rest rotations at heading 0. */
function inverseRest(skeleton: Skeleton): Float64Array {
  const out = turnedRest(skeleton, -restHeading(skeleton));
  for (let o = 0; o < out.length; o += 4) quatConjugate(out, o, out, o);
  return out;
}

/** Leg lengths decide the size; else the heights of the root bones at rest. */
function sizeRatio(source: Skeleton, target: Skeleton): number {
  const [a, b] = [legLength(source), legLength(target)];
  if (a && b) return b / a;
  const height = (s: Skeleton): number => {
    const { positions } = s.rest;
    let low = Infinity;
    for (let i = 1; i < positions.length; i += 3) low = Math.min(low, positions[i]!);
    return positions[s.rootBone * 3 + 1]! - low;
  };
  const [from, to] = [height(source), height(target)];
  return from > 1e-6 && to > 1e-6 ? to / from : 1;
}

/** From the root bone to the middle of the hip joints, in the root bone's own axes; zero without legs. */
function socketOffset(skeleton: Skeleton): Float64Array {
  const { positions, rotations } = skeleton.rest;
  const out = new Float64Array(3);
  const sockets = (['leftUpperLeg', 'rightUpperLeg'] as const).map((r) => jointOfRole(skeleton, r));
  if (sockets.some((s) => s < 0)) return out;
  for (const s of sockets)
    for (let k = 0; k < 3; k++)
      out[k]! += (positions[s * 3 + k]! - positions[skeleton.rootBone * 3 + k]!) / 2;
  const undo = new Float64Array(4);
  quatConjugate(rotations, skeleton.rootBone * 4, undo, 0);
  quatRotate(undo, 0, out, 0, out, 0);
  return out;
}

function sourcesOf(source: Skeleton, target: Skeleton, partner: Int32Array): (Source | null)[] {
  const aligns = alignments(source, target);
  const trunk = trunkSources(source, target);
  return Array.from(partner, (p, j): Source | null => {
    const align = aligns[j]!;
    const shared = trunk.get(j);
    if (shared) return { ...shared, align };
    return p < 0 ? null : { from: p, to: p, t: 0, align };
  });
}

/** Trunk joints of the target, where the two trunks have other numbers of bones: where on the source's chain each lies. */
function trunkSources(
  source: Skeleton,
  target: Skeleton,
): Map<number, { from: number; to: number; t: number }> {
  const chain = (s: Skeleton): number[] => TRUNK.map((r) => jointOfRole(s, r)).filter((j) => j >= 0);
  const matches = new Map<number, { from: number; to: number; t: number }>();
  const [a, b] = [chain(source), chain(target)];
  const same = TRUNK.every((r) => jointOfRole(source, r) >= 0 === jointOfRole(target, r) >= 0);
  if (same || a.length === 0) return matches;
  const all = [source.rootBone, ...a];
  b.forEach((joint, i) => {
    const at = ((i + 1) / b.length) * a.length;
    const k = Math.min(Math.floor(at + 1e-9), a.length - 1);
    matches.set(joint, { from: all[k]!, to: all[k + 1]!, t: Math.min(1, at - k) });
  });
  return matches;
}

/** For each target joint the world rotation at heading 0 that takes its rest direction to the source's. */
function alignments(source: Skeleton, target: Skeleton): Float64Array[] {
  const none = Float64Array.of(0, 0, 0, 1);
  const byRole = new Map<string, Float64Array>();
  for (const side of ['left', 'right'])
    for (const [part, next] of Object.entries(NEXT)) {
      const a = direction(source, `${side}${part}` as Role, `${side}${next}` as Role);
      const b = direction(target, `${side}${part}` as Role, `${side}${next}` as Role);
      if (a && b) byRole.set(`${side}${part}`, quatFromArc(b, a));
    }
  return target.roles.map((role): Float64Array => {
    if (!role) return none;
    const own = byRole.get(role);
    if (own) return own;
    const side = /^(left|right)(.+)$/.exec(role);
    if (!side) return none;
    const part = /Thumb|Index|Middle|Ring|Little/.test(role) ? 'Hand' : side[2]!;
    return byRole.get(`${side[1]}${HANGS_ON[part] ?? ''}`) ?? none;
  });
}

/** Unit direction between two joints of the rest pose at heading 0; null where one is missing. */
function direction(skeleton: Skeleton, from: Role, to: Role): Float64Array | null {
  const [a, b] = [jointOfRole(skeleton, from), jointOfRole(skeleton, to)];
  if (a < 0 || b < 0) return null;
  const { positions } = skeleton.rest;
  const v = Float64Array.from([0, 1, 2], (k) => positions[b * 3 + k]! - positions[a * 3 + k]!);
  const turn = -restHeading(skeleton);
  quatRotate(Float64Array.of(0, Math.sin(turn / 2), 0, Math.cos(turn / 2)), 0, v, 0, v, 0);
  const n = Math.hypot(...v);
  return n > 1e-9 ? v.map((c) => c / n) : null;
}
