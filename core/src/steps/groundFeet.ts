import { Memory } from '../memory/memory';
import { legsOf } from '../skeleton/legs';
import { soleHeights } from '../skeleton/sole';
import type { Clip } from '../clip/clip';
import type { LegHolds } from './footHolds';
import { applyHolds, holdTargets, legsToWorld, makeHoldScratch, neededLowering } from './footHolds';
import type { Pose } from '../clip/pose';
import { makePoseBuffer, sampleBetween, toParentSpace } from '../clip/pose';
import type { Planting } from './stepHolds';
import { stepHolds } from './stepHolds';
import { findSteps, inheritSteps, tipBeside } from './steps';
import { smoothLowering } from './hipsLowering';
import { jointTracks } from '../clip/jointTracks';

/** Seconds in which a held foot comes and goes. */
export const EASE_SECONDS = 8 / 30;

/** The holds of every leg of a clip by its steps, in samples. */
function clipHolds(clip: Clip, onFloor: boolean, memory = new Memory()): LegHolds[] {
  const { joints } = findSteps(clip, memory);
  const columns = joints.map((j) => j.joint);
  const tracks = jointTracks(clip, columns);
  const placeAt = (frame: number, joint: number, out: Float64Array): void => {
    const s = Math.min(Math.max(frame, 0), clip.frames - 1);
    const a = Math.floor(s);
    const b = Math.min(a + 1, clip.frames - 1);
    const column = columns.indexOf(joint);
    for (let k = 0; k < 3; k++) {
      const from = tracks[(a * columns.length + column) * 3 + k]!;
      out[k] = from + (s - a) * (tracks[(b * columns.length + column) * 3 + k]! - from);
    }
  };
  const soles = onFloor ? soleHeights(clip.skeleton) : null;
  return legsOf(clip.skeleton).map((leg, i) => {
    const plantings = joints
      .filter((j) => j.leg === i)
      .flatMap((j) =>
        j.spans.map((s): Planting => ({
          start: s.start,
          end: s.end - 1,
          joint: j.joint,
          byHand: null,
        })),
      );
    return { leg, holds: stepHolds(leg, plantings, placeAt, soles), keepsRaise: onFloor };
  });
}

/**
 * Metres by which a body has to come up, or down, for its feet to stand on the floor: the median over its steps, of the toes where
 * they are planted, else of the ankle at its lowest. A leg that is as bent as its source's then reaches the floor.
 */
function floorOffset(clip: Clip, memory: Memory): number {
  const { joints } = findSteps(clip, memory);
  const tracks = jointTracks(
    clip,
    joints.map((j) => j.joint),
  );
  const sole = soleHeights(clip.skeleton);
  const offsets = joints.flatMap((steps, column) =>
    tipBeside(joints, steps)
      ? []
      : steps.spans.map(({ start, end }) => {
          const heights = Array.from(
            { length: end - start },
            (_, i) => tracks[((start + i) * joints.length + column) * 3 + 1]!,
          );
          heights.sort((a, b) => a - b);
          return sole(steps.joint) - heights[heights.length >> 1]!;
        }),
  );
  return offsets.length === 0 ? 0 : offsets.sort((a, b) => a - b)[offsets.length >> 1]!;
}

/** A clip raised as a whole. */
function raised(clip: Clip, metres: number): Clip {
  if (metres === 0) return clip;
  const translations = clip.translations.slice();
  const width = clip.translated.length * 3;
  for (let f = 0; f < clip.frames; f++) translations[f * width + 1]! += metres;
  return { ...clip, translations };
}

/**
 * The clip with its planted feet brought to the floor and held where they stand: the body comes down or up until its feet
 * stand there, then each foot is put where it belongs; the hips come down a little where a leg would not reach. For clips that were carried over from a body of other proportions.
 */
export function groundFeet(given: Clip, memory = new Memory()): Clip {
  const offset = floorOffset(given, memory);
  const clip = offset === 0 ? given : inheritSteps(raised(given, offset), given, undefined, memory);
  const legs = clipHolds(clip, true, memory);
  if (!legs.some((l) => l.holds.length > 0)) return clip;
  const { skeleton, frames } = clip;
  const joints = skeleton.names.length;
  const rotations = clip.rotations.slice();
  const translations = clip.translations.slice();
  const width = clip.translated.length * 3;
  const buffer = makePoseBuffer(skeleton);
  const scratch = makeHoldScratch(skeleton);
  const ease = EASE_SECONDS * clip.rate;
  const read = (s: number): Pose => {
    const pose = toParentSpace(skeleton, sampleBetween(clip, s, s, 0, buffer));
    legsToWorld(skeleton, pose, scratch);
    holdTargets(legs, s, ease, scratch.world, scratch.targets);
    return pose;
  };
  const lowering = smoothLowering(
    Float64Array.from({ length: frames }, (_, s) => {
      read(s);
      return neededLowering(legs, scratch.targets, scratch.world);
    }),
    clip.rate,
  );
  for (let s = 0; s < frames; s++) {
    const pose = read(s);
    applyHolds(skeleton, legs, lowering[s]!, pose, scratch);
    for (const { leg } of legs)
      for (const joint of [leg.upper, leg.lower, leg.ankle])
        rotations.set(pose.rotations.subarray(joint * 4, joint * 4 + 4), (s * joints + joint) * 4);
    translations[s * width + 1]! -= lowering[s]!;
  }
  return inheritSteps({ ...clip, rotations, translations }, clip, undefined, memory);
}
