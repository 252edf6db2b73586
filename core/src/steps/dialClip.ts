import type { Clip } from '../clip/clip';
import type { Pose, WorldPose } from '../clip/pose';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '../clip/pose';
import { rootTrack } from '../clip/root';
import { shortestTurn } from '../math/floorMove';
import {
  quatConjugate,
  quatFromAxis,
  quatMultiply,
  quatNormalize,
  quatRotate,
  quatSlerp,
} from '../math/quaternion';
import type { Memory } from '../memory/memory';
import { derivation } from '../memory/memory';
import type { Dials } from '../clip/dials';
import type { Leg } from '../skeleton/legs';
import { legsOf } from '../skeleton/legs';
import type { Role } from '../skeleton/roles';
import { restHeading } from '../skeleton/rootBone';
import type { Skeleton } from '../skeleton/skeleton';
import { jointOfRole } from '../skeleton/skeleton';
import { reachWithLeg } from './reachWithLeg';
import { findSteps, inheritSteps } from './steps';

const RADIANS = Math.PI / 180;
/** How much of a lean the head gives back, so that the eyes stay nearer to the level: of common practice. */
const HEAD_BACK = 0.5;

const ARM_ROLES = /^(left|right)(Shoulder|UpperArm|LowerArm|Hand|Thumb|Index|Middle|Ring|Little)/;
const TRUNK_ROLES: readonly Role[] = ['spine', 'chest', 'upperChest', 'neck', 'head'];

const dialled = derivation('dialled clip', 500, (memory, clip: Clip, text: string): Clip =>
  inheritSteps(dialMotion(clip, JSON.parse(text) as Dials, memory), clip, undefined, memory),
);

/**
 * The clip with its dials set; without any it is the very clip. Its steps stay: feet that are planted stay on a place, the legs reach for it.
 */
export function dialClip(clip: Clip, dials: Dials, memory: Memory): Clip {
  const text = JSON.stringify(dials);
  return text === '{}' ? clip : memory.recall(dialled, clip, text);
}

/**
 * A motion with its dials set, sample by sample:
 * - *amplitude* a: q' = m (m^-1 q)^a for each joint of the arms or the trunk, m its mean rotation in the clip,
 * - *lean*: the lowest joint of the spine turns forward about the body's left, the neck half of it back,
 * - *clearance*: both upper arms turn outwards about the forward axis of what carries the shoulders,
 * - *crouch*: the hips come down, *stance*: each ankle goes to its side; two-bone legs reach for where the ankles were, the feet keep
 *   their rotations in the scene.
 */
function dialMotion(clip: Clip, dials: Dials, memory: Memory): Clip {
  const { skeleton, frames, translated } = clip;
  const joints = skeleton.names.length;
  const rotations = clip.rotations.slice();
  const translations = clip.translations.slice();
  spread(clip, rotations, (role) => ARM_ROLES.test(role), dials.arms ?? 1);
  spread(clip, rotations, (role) => TRUNK_ROLES.includes(role), dials.trunk ?? 1);
  const root = rootTrack(clip, memory);
  const legs = legsOf(skeleton);
  const sides = legs.map((_, leg) => sideHeadings(clip, leg, root, memory));
  const work = makeWork(skeleton);
  const bent: Clip = { ...clip, rotations, translations };
  for (let f = 0; f < frames; f++) {
    const pose = samplePose(bent, f, work.buffer);
    poseToWorld(skeleton, pose, work.world);
    const ankles = work.world.positions.slice();
    const heading = root[f * 3 + 2]!;
    lean(skeleton, (dials.lean ?? 0) * RADIANS, heading, pose, work);
    clear(skeleton, (dials.clearance ?? 0) * RADIANS, pose, work);
    lower(skeleton, dials.crouch ?? 0, pose);
    stand(skeleton, legs, (l) => sides[l]![f]!, dials.stance ?? 0, ankles, pose, work);
    for (let j = 0; j < joints; j++) {
      quatNormalize(pose.rotations, j * 4);
      rotations.set(pose.rotations.subarray(j * 4, j * 4 + 4), (f * joints + j) * 4);
    }
    translations[f * translated.length * 3 + 1]! -= dials.crouch ?? 0;
  }
  return { ...bent, id: `${clip.id} ${JSON.stringify(dials)}` };
}

interface Work {
  readonly buffer: ReturnType<typeof makePoseBuffer>;
  readonly world: WorldPose;
}

const makeWork = (skeleton: Skeleton): Work => ({
  buffer: makePoseBuffer(skeleton),
  world: makeWorldPose(skeleton),
});

const _mean = new Float64Array(4);
const _turn = new Float64Array(4);
const _inverse = new Float64Array(4);
const _axis = new Float64Array(3);

/** Makes some joints depart more, or less, from their mean rotations. */
function spread(
  clip: Clip,
  rotations: Float32Array,
  isPart: (role: Role) => boolean,
  amplitude: number,
): void {
  if (amplitude === 1) return;
  const { names, roles } = clip.skeleton;
  const width = names.length * 4;
  const q = new Float64Array(4);
  names.forEach((_, j) => {
    const role = roles[j];
    if (!role || !isPart(role)) return;
    meanRotation(rotations, width, j * 4, clip.frames);
    quatConjugate(_mean, 0, _inverse, 0);
    for (let f = 0; f < clip.frames; f++) {
      const o = f * width + j * 4;
      for (let k = 0; k < 4; k++) q[k] = rotations[o + k]!;
      quatMultiply(_inverse, 0, q, 0, q, 0);
      quatSlerp(IDENTITY, 0, q, 0, amplitude, q, 0);
      quatMultiply(_mean, 0, q, 0, q, 0);
      rotations.set(quatNormalize(q, 0), o);
    }
  });
}

const IDENTITY = Float64Array.of(0, 0, 0, 1);

/** Writes the mean of a joint's rotations to `_mean`: their sum, all on one side, made unit. */
function meanRotation(rotations: Float32Array, width: number, at: number, frames: number): void {
  _mean.fill(0);
  for (let f = 0; f < frames; f++) {
    const o = f * width + at;
    let dot = 0;
    for (let k = 0; k < 4; k++) dot += _mean[k]! * rotations[o + k]!;
    const sign = dot < 0 ? -1 : 1;
    for (let k = 0; k < 4; k++) _mean[k]! += sign * rotations[o + k]!;
  }
  quatNormalize(_mean, 0);
}

/** Turns a joint about an axis of the scene, by what its parent is turned by in the world pose. */
function turnInScene(skeleton: Skeleton, joint: number, radians: number, pose: Pose, { world }: Work): void {
  if (joint < 0 || radians === 0) return;
  const parent = skeleton.parents[joint]!;
  quatFromAxis(_axis[0]!, _axis[1]!, _axis[2]!, radians, _turn, 0);
  if (parent >= 0) {
    quatConjugate(world.rotations, parent * 4, _inverse, 0);
    quatMultiply(_inverse, 0, _turn, 0, _turn, 0);
    quatMultiply(_turn, 0, world.rotations, parent * 4, _turn, 0);
  }
  quatMultiply(_turn, 0, pose.rotations, joint * 4, pose.rotations, joint * 4);
}

/** The body's left where it faces a heading; a turn about it by a positive angle bows forward. */
function setLeft(heading: number): void {
  _axis[0] = Math.cos(heading);
  _axis[1] = 0;
  _axis[2] = -Math.sin(heading);
}

function lean(skeleton: Skeleton, radians: number, heading: number, pose: Pose, work: Work): void {
  if (radians === 0) return;
  setLeft(heading);
  turnInScene(skeleton, jointOfRole(skeleton, 'spine'), radians, pose, work);
  poseToWorld(skeleton, pose, work.world);
  const neck = jointOfRole(skeleton, 'neck');
  turnInScene(skeleton, neck >= 0 ? neck : jointOfRole(skeleton, 'head'), -radians * HEAD_BACK, pose, work);
  poseToWorld(skeleton, pose, work.world);
}

function clear(skeleton: Skeleton, radians: number, pose: Pose, work: Work): void {
  if (radians === 0) return;
  const carrier = ['upperChest', 'chest', 'spine', 'hips']
    .map((role) => jointOfRole(skeleton, role as Role))
    .find((joint) => joint >= 0);
  if (carrier === undefined) return;
  // Forward as the carrier has it at rest, turned with it.
  const facing = restHeading(skeleton);
  const inverse = quatConjugate(skeleton.rest.rotations, carrier * 4, new Float64Array(4), 0);
  const forward = Float64Array.of(Math.sin(facing), 0, Math.cos(facing));
  quatRotate(inverse, 0, forward, 0, forward, 0);
  for (const [side, sign] of [
    ['left', 1],
    ['right', -1],
  ] as const) {
    quatRotate(work.world.rotations, carrier * 4, forward, 0, _axis, 0);
    turnInScene(skeleton, jointOfRole(skeleton, `${side}UpperArm`), sign * radians, pose, work);
  }
  poseToWorld(skeleton, pose, work.world);
}

function lower(skeleton: Skeleton, metres: number, pose: Pose): void {
  pose.translations[skeleton.rootBone * 3 + 1]! -= metres;
}

/** Brings the ankles to where they were, further to their sides by half of what the stance is wider. */
function stand(
  skeleton: Skeleton,
  legs: readonly Leg[],
  sideHeading: (leg: number) => number,
  stance: number,
  ankles: Float64Array,
  pose: Pose,
  { world }: Work,
): void {
  poseToWorld(skeleton, pose, world);
  legs.forEach((leg, l) => {
    setLeft(sideHeading(l));
    const out = (leg.side === 'left' ? 0.5 : -0.5) * stance;
    const target = Float64Array.from([0, 1, 2], (k) => ankles[leg.ankle * 3 + k]! + _axis[k]! * out);
    const off = Math.hypot(...[0, 1, 2].map((k) => world.positions[leg.ankle * 3 + k]! - target[k]!));
    if (off > 1e-9) reachWithLeg(skeleton, leg, target, 0, world, pose);
  });
}

/** The heading to whose side a leg is set, sample by sample: one for the whole of each step, and from one to the next between. */
function sideHeadings(clip: Clip, leg: number, root: Float64Array, memory: Memory): Float64Array {
  const heading = (f: number): number => root[Math.min(clip.frames - 1, Math.max(0, f)) * 3 + 2]!;
  const spans = findSteps(clip, memory)
    .joints.filter((j) => j.leg === leg)
    .flatMap((j) => j.spans)
    .map(({ start, end }) => ({
      start: Math.max(0, Math.ceil(start)),
      end: Math.min(clip.frames, Math.floor(end)),
    }))
    .filter(({ start, end }) => end > start)
    .sort((a, b) => a.start - b.start)
    .reduce<{ start: number; end: number }[]>((list, span) => {
      const last = list.at(-1);
      if (last && span.start <= last.end) last.end = Math.max(last.end, span.end);
      else list.push({ ...span });
      return list;
    }, []);
  const out = Float64Array.from({ length: clip.frames }, (_, f) => heading(f));
  const held = spans.map(({ start, end }) => heading(Math.floor((start + end) / 2)));
  spans.forEach(({ start, end }, i) => out.fill(held[i]!, start, end));
  for (let i = 1; i < spans.length; i++) {
    const [from, to] = [spans[i - 1]!.end - 1, spans[i]!.start];
    const turn = shortestTurn(held[i]! - held[i - 1]!);
    for (let f = from + 1; f < to; f++) out[f] = held[i - 1]! + (turn * (f - from)) / (to - from);
  }
  return out;
}
