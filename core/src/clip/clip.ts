import type { Steps } from './contacts';
import { InputError, TOO_LARGE_HINT } from '../math/errors';
import type { Skeleton } from '../skeleton/skeleton';

/** The joint above the root bone that carries a clip's travel, as skeletons made for games have one. */
export interface TravelBone {
  readonly joint: number;
  /** Whether it turns with the body. */
  readonly turned: boolean;
  /** Where it is in every sample: frames x 3, x and z in metres and the unwrapped heading in radians. */
  readonly root: Float64Array;
}

/**
 * A library motion: samples of one skeleton at one rate. Read only.
 *
 * The root bone's rotation and translation are in scene space (metres, Y up), those of all other joints relative
 * to their parents.
 */
export interface Clip {
  /** Content hash of the file and the number of the take in it. */
  readonly id: string;
  readonly name: string;
  readonly skeleton: Skeleton;
  /** Samples a second. */
  readonly rate: number;
  /** Number of samples, at least 1. */
  readonly frames: number;
  /** frames x joints x 4, xyzw, unit. */
  readonly rotations: Float32Array;
  /** Joints that move relative to their parents; the root bone comes first. */
  readonly translated: Int32Array;
  /** frames x translated x 3, metres. */
  readonly translations: Float32Array;
  /** Where a joint above the root bone carries the travel; without it the root is the root bone's place on the floor. */
  readonly travelBone?: TravelBone;
  /** Foot contacts that were given to it: by hand, or by the clip that it was made from; else they are found. */
  readonly steps?: Steps;
}

/** Samples that a clip may have: ten minutes at 1000 a second and a little. */
export const MAX_FRAMES = 1_000_000;

/**
 * Checks sizes and numbers of a clip and returns it.
 *
 * @throws InputError `clip` where an array has another size, or a number is not finite (with bone and frame)
 */
export function checkClip(clip: Clip): Clip {
  const joints = clip.skeleton.names.length;
  const { frames, rotations, translations, translated, name } = clip;
  if (!Number.isInteger(frames) || frames < 1 || frames > MAX_FRAMES || !(clip.rate > 0)) {
    throw new InputError('clip', `${name} has ${frames} samples at ${clip.rate} a second.`, {
      hint: frames > MAX_FRAMES ? `A clip has up to ${MAX_FRAMES} samples. ${TOO_LARGE_HINT}` : '',
    });
  }
  if (
    rotations.length !== frames * joints * 4 ||
    translations.length !== frames * translated.length * 3 ||
    translated[0] !== clip.skeleton.rootBone
  ) {
    throw new InputError('clip', `${name} does not have ${frames} samples of ${joints} joints.`);
  }
  requireFinite(clip, rotations, joints, 4, (i) => i);
  requireFinite(clip, translations, translated.length, 3, (i) => translated[i]!);
  return clip;
}

function requireFinite(
  clip: Clip,
  values: Float32Array,
  columns: number,
  size: number,
  joint: (column: number) => number,
): void {
  let bad = 0;
  // A difference of a finite number with itself is zero.
  while (bad < values.length && values[bad]! - values[bad]! === 0) bad++;
  if (bad === values.length) return;
  const bone = clip.skeleton.names[joint(Math.floor(bad / size) % columns)]!;
  const frame = Math.floor(bad / (size * columns));
  throw new InputError('not-a-number', `${clip.name}: ${bone} has no finite value at sample ${frame}.`, {
    place: { bone, frame },
    hint: 'Repair the clip in the program that wrote it, or cut that sample away.',
  });
}
