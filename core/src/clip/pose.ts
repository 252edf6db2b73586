import { betweenRotations } from '../math/rotations';
import { rootBoneToLocal } from '../skeleton/rootBone';
import type { Skeleton } from '../skeleton/skeleton';
import { worldTransforms } from '../skeleton/skeleton';
import type { Clip } from './clip';

/** One pose: local transforms of every joint. Reused from frame to frame. */
export interface Pose {
  /** joints x 4, xyzw, relative to the parent. */
  readonly rotations: Float64Array;
  /** joints x 3, metres, relative to the parent. */
  readonly translations: Float64Array;
  /** x, z (metres) and heading (radians) of the root on the floor. */
  readonly root: Float64Array;
}

/** A pose set to the rest pose. */
export function makePose(skeleton: Skeleton): Pose {
  return {
    rotations: skeleton.restRotations.slice(),
    translations: skeleton.restTranslations.slice(),
    root: new Float64Array(3),
  };
}

/** World transforms of a pose. */
export interface WorldPose {
  /** joints x 4, xyzw. */
  readonly rotations: Float64Array;
  /** joints x 3, metres. */
  readonly positions: Float64Array;
}

/** Room for the world transforms of a skeleton's pose. */
export function makeWorldPose(skeleton: Skeleton): WorldPose {
  const joints = skeleton.names.length;
  return { rotations: new Float64Array(joints * 4), positions: new Float64Array(joints * 3) };
}

/** Writes the world transforms of a pose. */
export function poseToWorld(skeleton: Skeleton, pose: Pose, out: WorldPose): WorldPose {
  worldTransforms(skeleton.parents, pose.rotations, pose.translations, out.rotations, out.positions);
  return out;
}

/**
 * Writes a clip's pose between samples `first` and `second` (rotations the shorter way, translations linear).
 * The root bone stays in scene space: `carrierToLocal` finishes the pose.
 */
export function sampleBetween(clip: Clip, first: number, second: number, t: number, out: Pose): void {
  const joints = clip.skeleton.names.length;
  const { rotations } = clip;
  const a = first * joints * 4;
  const b = second * joints * 4;
  if (t === 0) for (let i = 0; i < joints * 4; i++) out.rotations[i] = rotations[a + i]!;
  else betweenRotations(rotations, a, rotations, b, joints, t, out.rotations);
  sampleTranslations(clip, first, second, t, out);
}

/** Writes the translations of a clip between two samples, of the joints that it moves. */
export function sampleTranslations(clip: Clip, first: number, second: number, t: number, out: Pose): void {
  const { translations, translated } = clip;
  const ta = first * translated.length * 3;
  const tb = second * translated.length * 3;
  for (let i = 0; i < translated.length; i++) {
    const to = translated[i]! * 3;
    for (let k = 0; k < 3; k++) {
      const v = translations[ta + i * 3 + k]!;
      out.translations[to + k] = v + t * (translations[tb + i * 3 + k]! - v);
    }
  }
}

/**
 * Writes a clip's pose at a real sample number, clamped to its first and last sample, with local transforms only.
 */
export function samplePose(clip: Clip, sample: number, out: Pose): Pose {
  const s = Math.min(Math.max(sample, 0), clip.frames - 1);
  const first = Math.floor(s);
  sampleBetween(clip, first, Math.min(first + 1, clip.frames - 1), s - first, out);
  rootBoneToLocal(clip.skeleton, out.rotations, out.translations);
  return out;
}
