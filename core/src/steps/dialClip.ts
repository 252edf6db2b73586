import type { Clip } from '../clip/clip';
import type { Dials } from '../clip/dials';
import { makePoseBuffer, sampleBetween } from '../clip/pose';
import { rootTrack } from '../clip/root';
import { shortestTurn } from '../math/floorMove';
import { quatConjugate, quatMultiply, quatNormalize, quatSlerp } from '../math/quaternion';
import type { Memory } from '../memory/memory';
import { derivation } from '../memory/memory';
import { legsOf } from '../skeleton/legs';
import type { Role } from '../skeleton/roles';
import type { Skeleton } from '../skeleton/skeleton';
import { dialPose, makeDialWork } from './dialPose';
import { findSteps, inheritSteps } from './steps';

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
 * A motion with its dials set, sample by sample: the amplitude a of arms and trunk first, q' = m (m^-1 q)^a for each of their joints with
 * its mean rotation m in the clip, then what `dialPose` does.
 */
function dialMotion(clip: Clip, dials: Dials, memory: Memory): Clip {
  const { skeleton, frames, translated } = clip;
  const joints = skeleton.names.length;
  const rotations = clip.rotations.slice();
  const translations = clip.translations.slice();
  const root = rootTrack(clip, memory);
  const work = makeDialWork(skeleton);
  const sides = work.legs.map((_, leg) => sideHeadings(clip, leg, root, memory));
  const buffer = makePoseBuffer(skeleton);
  const mean = memory.recall(meanPose, clip);
  const { clearance = 0, lean = 0, stance = 0, crouch = 0, arms = 1, trunk = 1 } = dials;
  const body = { clearance, lean, stance, crouch };
  for (let f = 0; f < frames; f++) {
    const pose = sampleBetween(clip, f, f, 0, buffer);
    spreadPose(skeleton, mean, arms, trunk, pose.rotations);
    dialPose(skeleton, body, root[f * 3 + 2]!, (l) => sides[l]![f]!, pose, work);
    for (let j = 0; j < joints; j++) {
      quatNormalize(pose.rotations, j * 4);
      rotations.set(pose.rotations.subarray(j * 4, j * 4 + 4), (f * joints + j) * 4);
    }
    translations[f * translated.length * 3 + 1]! -= crouch;
  }
  return { ...clip, rotations, translations, id: `${clip.id} ${JSON.stringify(dials)}` };
}

const _mean = new Float64Array(4);
const _inverse = new Float64Array(4);
const _turn = new Float64Array(4);
const IDENTITY = Float64Array.of(0, 0, 0, 1);

/** The mean rotations of a clip's joints, joints x 4: the sums of the samples, all on one side, made unit. */
export const meanPose = derivation('mean pose', 500, (_, clip: Clip): Float64Array => {
  const width = clip.skeleton.names.length * 4;
  const out = new Float64Array(width);
  for (let at = 0; at < width; at += 4) {
    _mean.fill(0);
    for (let f = 0; f < clip.frames; f++) {
      const o = f * width + at;
      let dot = 0;
      for (let k = 0; k < 4; k++) dot += _mean[k]! * clip.rotations[o + k]!;
      const sign = dot < 0 ? -1 : 1;
      for (let k = 0; k < 4; k++) _mean[k]! += sign * clip.rotations[o + k]!;
    }
    out.set(quatNormalize(_mean, 0), at);
  }
  return out;
});

/** Makes the joints of arms and trunk depart more, or less, from mean rotations. */
export function spreadPose(
  { roles }: Skeleton,
  mean: Float64Array,
  arms: number,
  trunk: number,
  rotations: Float64Array,
): void {
  if (arms === 1 && trunk === 1) return;
  roles.forEach((role, j) => {
    if (!role) return;
    const amplitude = ARM_ROLES.test(role) ? arms : TRUNK_ROLES.includes(role) ? trunk : 1;
    if (amplitude === 1) return;
    const o = j * 4;
    quatConjugate(mean, o, _inverse, 0);
    quatMultiply(_inverse, 0, rotations, o, _turn, 0);
    quatSlerp(IDENTITY, 0, _turn, 0, amplitude, _turn, 0);
    quatMultiply(mean, o, quatNormalize(_turn, 0), 0, rotations, o);
  });
}

/**
 * By how much the heading to whose side each leg is set differs from that of the root, sample by sample: a foot that stands is set to one
 * side for the whole of its step.
 */
export const sideOffsets = derivation('side offsets', 500, (memory, clip: Clip): readonly Float64Array[] => {
  const root = rootTrack(clip, memory);
  return legsOf(clip.skeleton).map((_, leg) =>
    sideHeadings(clip, leg, root, memory).map((side, f) => shortestTurn(side - root[f * 3 + 2]!)),
  );
});

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
