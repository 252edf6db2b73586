import { betweenRotations } from '../math/rotations';
import { rootBoneToLocal, rootBoneToScene } from '../skeleton/rootBone';
import type { Skeleton } from '../skeleton/skeleton';
import { worldTransforms } from '../skeleton/skeleton';
import type { Clip } from './clip';

/** The numbers of a pose. Which space they are in is said by its type. */
export interface PoseArrays {
  /** joints x 4, xyzw. */
  readonly rotations: Float64Array;
  /** joints x 3, metres. */
  readonly translations: Float64Array;
  /** x, z (metres) and heading (radians) of the root on the floor. */
  readonly root: Float64Array;
}

declare const SPACE: unique symbol;

type InSpace<S extends string> = PoseArrays & { readonly [SPACE]: S };

/**
 * Memory for a pose, reused from frame to frame. Nothing reads from it: what was written there, and in which space, is the result
 * of the function that wrote it. That result is gone with the next one that is written to the same memory.
 */
export type PoseBuffer = InSpace<'none'>;

/** A pose with every joint relative to its parent. */
export type Pose = InSpace<'parent'>;

/** A pose whose root bone is in scene space, as clips keep it; all other joints relative to their parents. */
export type ScenePose = InSpace<'scene'>;

/** A pose whose root bone is relative to the root on the floor; all other joints relative to their parents. */
export type RootPose = InSpace<'root'>;

/** Memory for the poses of a skeleton. */
export const makePoseBuffer = (skeleton: Skeleton): PoseBuffer =>
  ({
    rotations: skeleton.restRotations.slice(),
    translations: skeleton.restTranslations.slice(),
    root: new Float64Array(3),
  }) as PoseArrays as PoseBuffer;

/** The rest pose of a skeleton. */
export const restPose = (skeleton: Skeleton): Pose => makePoseBuffer(skeleton) as PoseArrays as Pose;

/** What was written to memory, as a pose in the space that it was written in. For those who write it. */
export const written = <P extends Pose | ScenePose | RootPose>(arrays: PoseArrays): P => arrays as P;

/** A pose with its root bone relative to its parent; takes over the memory of the one in scene space. */
export function toParentSpace(skeleton: Skeleton, pose: ScenePose): Pose {
  rootBoneToLocal(skeleton, pose.rotations, pose.translations);
  return written(pose);
}

/** A pose with its root bone in scene space; takes over the memory of the one relative to parents. */
export function toSceneSpace(skeleton: Skeleton, pose: Pose): ScenePose {
  rootBoneToScene(skeleton, pose.rotations, pose.translations);
  return written(pose);
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

/** Writes the world transforms of a pose whose root bone is in scene space; those of what is above it count for nothing. */
export function sceneToWorld(skeleton: Skeleton, pose: ScenePose, out: WorldPose): WorldPose {
  const { detachedParents } = skeleton;
  worldTransforms(detachedParents, pose.rotations, pose.translations, out.rotations, out.positions);
  return out;
}

/** Writes a clip's pose between samples `first` and `second` (rotations the shorter way, translations linear). */
export function sampleBetween(
  clip: Clip,
  first: number,
  second: number,
  t: number,
  out: PoseBuffer,
): ScenePose {
  const joints = clip.skeleton.names.length;
  const { rotations } = clip;
  const a = first * joints * 4;
  const b = second * joints * 4;
  if (t === 0) for (let i = 0; i < joints * 4; i++) out.rotations[i] = rotations[a + i]!;
  else betweenRotations(rotations, a, rotations, b, joints, t, out.rotations);
  sampleTranslations(clip, first, second, t, out);
  return written(out);
}

/** Writes the translations of a clip between two samples, of the joints that it moves; the root bone's in scene space. */
export function sampleTranslations(
  clip: Clip,
  first: number,
  second: number,
  t: number,
  out: PoseArrays,
): void {
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

/** Writes a clip's pose at a real sample number, clamped to its first and last sample. */
export function samplePose(clip: Clip, sample: number, out: PoseBuffer): Pose {
  const s = Math.min(Math.max(sample, 0), clip.frames - 1);
  const first = Math.floor(s);
  const pose = sampleBetween(clip, first, Math.min(first + 1, clip.frames - 1), s - first, out);
  return toParentSpace(clip.skeleton, pose);
}
