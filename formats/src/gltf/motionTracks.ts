import type { ExactSpan, LocalTracks, MotionPieces, Pose, ReduceOptions, ReducedKeys } from '@warper/core';
import { makePoseBuffer, reduceKeysSteps, samplePose } from '@warper/core';
import { keySlope, quatConjugate, quatMultiply, quatNormalize, quatRotate } from '@warper/core/kernels';
import type { GltfLayout } from '../imported';
import type { NodeTrack } from './animatedGlb';

/** Which keys are written: one a sample, or those that an error needs. */
export type KeyChoice = 'every' | Omit<ReduceOptions, 'exact'>;

/** A motion on its way into a file, with what is to be kept more exactly where keys are left out. */
export type WrittenMotion = MotionPieces & { readonly exact?: readonly ExactSpan[] };

/** What moves the nodes of a body, and by how much joints come off their places where keys were left out. */
export interface MotionTracks {
  readonly tracks: readonly NodeTrack[];
  /** Keys that are written, of how many samples of all tracks. */
  readonly keys: number;
  readonly of: number;
  readonly errorMetres: number;
}

/**
 * A motion as tracks of nodes, in the units of a file.
 *
 * @param nodes of the joints
 * @param progress gets the share of the keys that is reduced
 */
export async function motionTracks(
  motion: WrittenMotion,
  layout: GltfLayout,
  nodes: readonly number[],
  keys: KeyChoice,
  progress: (share: number) => void | Promise<void> = () => undefined,
): Promise<MotionTracks> {
  const local = await readTracks(motion, layout);
  const reduced = keys === 'every' ? everyKey(local) : await fewerKeys(local, motion, keys, progress);
  const every = Float32Array.from({ length: motion.frames }, (_, f) => f / motion.rate);
  const tracks = reduced.joints.flatMap(({ rotations, translations }, j): NodeTrack[] => {
    const node = nodes[j]!;
    const turns = keptTrack(local.rotations[j]!, 4, rotations, reduced, every);
    const places = local.translations[j];
    if (!places || !translations) return [{ node, path: 'rotation', ...turns }];
    const moves = keptTrack(places, 3, translations, reduced, every);
    const scale = 1 / layout.scales[j]!;
    if (scale !== 1) moves.values.forEach((v, i) => (moves.values[i] = v * scale));
    return [
      { node, path: 'rotation', ...turns },
      { node, path: 'translation', ...moves },
    ];
  });
  const count = tracks.reduce((sum, track) => sum + track.times.length, 0);
  return { tracks, keys: count, of: tracks.length * motion.frames, errorMetres: reduced.errorMetres };
}

async function fewerKeys(
  local: LocalTracks,
  { exact }: WrittenMotion,
  keys: Exclude<KeyChoice, 'every'>,
  progress: (share: number) => void | Promise<void>,
): Promise<ReducedKeys> {
  const steps = reduceKeysSteps(local, { ...keys, exact });
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    await progress(step.value);
  }
}

function everyKey({ frames, rotations, translations }: LocalTracks): ReducedKeys {
  const all = Int32Array.from({ length: frames }, (_, f) => f);
  const joints = rotations.map((_, j) => ({ rotations: all, translations: translations[j] ? all : null }));
  return { joints, interpolation: 'linear', errorMetres: 0 };
}

/** The keys of a track as a file has them; every sample shares the times, and is not copied. */
function keptTrack(
  values: Float32Array,
  width: 3 | 4,
  keys: Int32Array,
  { interpolation }: ReducedKeys,
  every: Float32Array,
): Pick<NodeTrack, 'times' | 'values' | 'interpolation'> {
  const isEvery = keys.length === every.length;
  if (isEvery) return { times: every, values, interpolation: 'LINEAR' };
  const times = Float32Array.from(keys, (key) => every[key]!);
  if (interpolation === 'linear' || keys.length < 2) {
    const kept = new Float32Array(keys.length * width);
    keys.forEach((key, i) => kept.set(values.subarray(key * width, key * width + width), i * width));
    return { times, values: kept, interpolation: 'LINEAR' };
  }
  return { times, values: cubicKeys(values, width, keys, every), interpolation: 'CUBICSPLINE' };
}

/** Slope in, value and slope out of each key, slopes a second (glTF 2.0.1, appendix C.5). */
function cubicKeys(values: Float32Array, width: 3 | 4, keys: Int32Array, every: Float32Array): Float32Array {
  const out = new Float32Array(keys.length * width * 3);
  const rate = 1 / (every[1]! - every[0]!);
  keys.forEach((key, i) => {
    for (let k = 0; k < width; k++) {
      const slope = (other: number | undefined): number =>
        other === undefined ? 0 : keySlope(values, width, every.length, key, other, k) * rate;
      const at = i * width * 3 + k;
      out[at] = slope(keys[i - 1]);
      out[at + width] = values[key * width + k]!;
      out[at + 2 * width] = slope(keys[i + 1]);
    }
  });
  return out;
}

/** The motion's local transforms as the file's nodes mean them, under the nodes above; joint by joint, places in metres. */
async function readTracks(motion: MotionPieces, layout: GltfLayout): Promise<LocalTracks> {
  const { frames, skeleton } = motion;
  const joints = skeleton.names.length;
  const rotations = skeleton.names.map(() => new Float32Array(frames * 4));
  const moves = new Set(motion.translated);
  const translations = skeleton.names.map((_, j) => (moves.has(j) ? new Float32Array(frames * 3) : null));
  const buffer = makePoseBuffer(skeleton);
  const inverse = new Float64Array(4);
  quatConjugate(Float64Array.from(layout.aboveRotation), 0, inverse, 0);
  const before = new Float64Array(joints * 4);
  let f = 0;
  for await (const piece of motion.pieces()) {
    for (let s = 0; s < piece.frames; s++, f++) {
      const pose = samplePose(piece, s, buffer);
      outOfNode(pose, inverse, layout);
      for (let j = 0; j < joints; j++) {
        quatNormalize(pose.rotations, j * 4);
        if (f > 0) sameSide(pose.rotations, before, j * 4);
        rotations[j]!.set(pose.rotations.subarray(j * 4, j * 4 + 4), f * 4);
        translations[j]?.set(pose.translations.subarray(j * 3, j * 3 + 3), f * 3);
      }
      before.set(pose.rotations);
    }
  }
  const offsets = Float64Array.from(skeleton.restTranslations);
  return { frames, parents: Int32Array.from(skeleton.parents), offsets, rotations, translations };
}

/** Takes the topmost joint out of the fixed transform above it. */
function outOfNode(pose: Pose, inverse: Float64Array, layout: GltfLayout): void {
  for (let k = 0; k < 3; k++) pose.translations[k]! -= layout.abovePosition[k]!;
  quatRotate(inverse, 0, pose.translations, 0, pose.translations, 0);
  quatMultiply(inverse, 0, pose.rotations, 0, pose.rotations, 0);
}

/** Flips a quaternion to the side of its forerunner, so that readers that blend without care stay right. */
function sameSide(q: Float64Array, before: Float64Array, o: number): void {
  let dot = 0;
  for (let k = 0; k < 4; k++) dot += q[o + k]! * before[o + k]!;
  if (dot < 0) for (let k = 0; k < 4; k++) q[o + k] = -q[o + k]!;
}
