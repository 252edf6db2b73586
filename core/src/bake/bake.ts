import type { Clip } from '../clip/clip';
import { MAX_FRAMES, checkClip } from '../clip/clip';
import { placeTravelBone } from '../clip/travelBone';
import type { PoseBuffer, ScenePose } from '../clip/pose';
import { makePoseBuffer, toSceneSpace } from '../clip/pose';
import { easedFromRest } from '../evaluate/gapPose';
import { evaluate } from '../footlock/evaluate';
import type { CharacterPlan } from '../plan/plan';
import { InputError } from '../math/errors';
import type { FloorMove } from '../math/floorMove';
import { composeMoves, invertMove, unpackMove } from '../math/floorMove';
import { quatNormalize, quatTurn } from '../math/quaternion';
import type { Skeleton } from '../skeleton/skeleton';
import type { Rate } from '../math/rate';
import { framesPerSecond } from '../math/rate';

/** What to bake. */
export interface BakeOptions {
  /** First scene frame, and the one after the last; default the character's whole span. */
  readonly from?: number;
  readonly to?: number;
  /** Samples a second of the result; default the scene's rate. */
  readonly rate?: number;
  /** `in place` holds the root's x and z where they are at the first frame; default `recorded`. */
  readonly travel?: 'recorded' | 'in place';
  /** Whether `in place` holds the facing as well; default false. */
  readonly keepFacing?: boolean;
  /** Whether the performance begins at the origin and faces +Z there; default where it is in the scene. */
  readonly fromOrigin?: boolean;
  /** Scene frames before the first in which the body comes out of its rest pose; default 0. */
  readonly leadIn?: number;
}

/** Frames of a piece: few enough for a report of progress after each. */
const FRAMES_PER_PIECE = 64;

/** Samples that frames [from, to) of a scene make at another rate: floor((to - from) R'/R + 0.5). */
export const bakedFrames = (from: number, to: number, rate: number, sceneRate: number): number =>
  Math.floor(((to - from) * rate) / sceneRate + 0.5 + ROUNDING);

/** Sums that should be whole may miss it by this much. */
const ROUNDING = 1e-9;

/** A motion in pieces, each a clip of the frames after the ones before it: what a clip is without all of it being there at once. */
export interface MotionPieces {
  readonly name: string;
  readonly skeleton: Skeleton;
  /** Samples a second. */
  readonly rate: number;
  /** Samples of all pieces together. */
  readonly frames: number;
  /** Joints that move relative to their parents, as in a clip. */
  readonly translated: Int32Array;
  readonly pieces: () => Iterable<Clip> | AsyncIterable<Clip>;
}

/** A clip as a motion of one piece. */
export const piecesOf = (clip: Clip): MotionPieces => ({ ...clip, pieces: () => [clip] });

/** A performance on its way into a clip or a file. */
export interface BakedPieces extends MotionPieces {
  readonly pieces: () => Generator<Clip>;
}

/**
 * Computes a character's performance piece by piece: floor((to - from) R'/R + 0.5) samples, sample j at scene frame
 * from + j R/R'; a lead-in comes before them. Only one piece is there at a time.
 *
 * @throws InputError `bake-range` where the range is empty or too long
 */
export function bakePieces(plan: CharacterPlan, sceneRate: Rate, options: BakeOptions = {}): BakedPieces {
  const from = options.from ?? plan.start;
  const to = options.to ?? plan.end;
  const R = framesPerSecond(sceneRate);
  const rate = options.rate ?? R;
  const { leadIn = 0 } = options;
  const begin = from - leadIn;
  const frames = bakedFrames(begin, to, rate, R);
  if (!(frames >= 1) || frames > MAX_FRAMES) {
    throw new InputError(
      'bake-range',
      `Frames ${from} to ${to} make ${frames} samples; 1 to ${MAX_FRAMES} can be baked.`,
      {
        hint: 'The end is not part of the range; choose one after the start.',
      },
    );
  }
  const sampler: Sampler = {
    plan,
    translated: translatedJoints(plan),
    frameOf: (j) => begin + (j * R) / rate,
    from,
    leadIn,
    options,
    rate,
  };
  return {
    name: plan.character.name,
    skeleton: plan.skeleton,
    rate,
    frames,
    translated: sampler.translated,
    pieces: () => samplePieces(sampler, frames),
  };
}

/** What decides the samples of a bake. */
interface Sampler {
  readonly plan: CharacterPlan;
  readonly translated: Int32Array;
  /** The scene frame of a sample. */
  readonly frameOf: (sample: number) => number;
  /** The first frame of the performance, and how many of a lead-in come before it. */
  readonly from: number;
  readonly leadIn: number;
  readonly options: BakeOptions;
  readonly rate: number;
}

function* samplePieces(sampler: Sampler, frames: number): Generator<Clip> {
  const { plan, from, options } = sampler;
  const buffer = makePoseBuffer(plan.skeleton);
  const place = placer(unpackMove(evaluate(plan, from, buffer).root), options);
  for (let first = 0; first < frames; first += FRAMES_PER_PIECE)
    yield samplePiece(sampler, first, Math.min(FRAMES_PER_PIECE, frames - first), place, buffer);
}

/** Where a root is put; null where all stay. */
type Placer = ((root: FloorMove) => FloorMove) | null;

/** What is done with roots, by the one at the first frame. */
function placer(first: FloorMove, { travel, keepFacing = false, fromOrigin = false }: BakeOptions): Placer {
  const inPlace = travel === 'in place';
  if (!inPlace && !fromOrigin) return null;
  const back = invertMove(first);
  return (root) => {
    const held = inPlace ? { ...first, turn: keepFacing ? first.turn : root.turn } : root;
    return fromOrigin ? composeMoves(back, held) : held;
  };
}

/** Writes the pose of a scene frame, in scene space; before the first a part of the way to it from the rest pose. */
function poseAt({ plan, from, leadIn }: Sampler, frame: number, out: PoseBuffer): ScenePose {
  const pose = toSceneSpace(plan.skeleton, evaluate(plan, Math.max(frame, from), out));
  return frame < from ? easedFromRest(plan, 1 - (from - frame) / leadIn, pose) : pose;
}

/** Moves a pose on the floor to where its root is put. */
function putRoot(plan: CharacterPlan, place: NonNullable<Placer>, pose: ScenePose): void {
  const { skeleton, travelBone } = plan;
  const root = unpackMove(pose.root);
  const to = place(root);
  const { x, z, turn } = composeMoves(to, invertMove(root));
  const at = skeleton.rootBone * 3;
  const moved = composeMoves(
    { x, z, turn },
    { x: pose.translations[at]!, z: pose.translations[at + 2]!, turn: 0 },
  );
  pose.translations[at] = moved.x;
  pose.translations[at + 2] = moved.z;
  if (turn !== 0) quatTurn(pose.rotations, skeleton.rootBone * 4, turn);
  pose.root.set([to.x, to.z, to.turn]);
  if (travelBone) placeTravelBone(skeleton, travelBone.joint, travelBone.turned, pose);
}

function samplePiece(
  sampler: Sampler,
  first: number,
  frames: number,
  place: Placer,
  buffer: PoseBuffer,
): Clip {
  const { plan, translated, frameOf, rate } = sampler;
  const { skeleton, travelBone } = plan;
  const joints = skeleton.names.length;
  const rotations = new Float32Array(frames * joints * 4);
  const translations = new Float32Array(frames * translated.length * 3);
  const roots = new Float64Array(frames * 3);
  for (let j = 0; j < frames; j++) {
    const pose = poseAt(sampler, frameOf(first + j), buffer);
    if (place) putRoot(plan, place, pose);
    roots.set(pose.root, j * 3);
    for (let q = 0; q < joints * 4; q += 4) quatNormalize(pose.rotations, q);
    rotations.set(pose.rotations, j * joints * 4);
    for (let i = 0; i < translated.length; i++)
      for (let k = 0; k < 3; k++)
        translations[(j * translated.length + i) * 3 + k] = pose.translations[translated[i]! * 3 + k]!;
  }
  return {
    id: `bake:${plan.character.id}`,
    name: plan.character.name,
    skeleton,
    rate,
    frames,
    rotations,
    translated,
    translations,
    ...(travelBone ? { travelBone: { ...travelBone, root: roots } } : {}),
  };
}

/**
 * Computes a character's performance into one clip; see `bakePieces`. Yields the finished share (0..1) now and then, so that the caller
 * can report it or stop.
 *
 * @throws InputError `bake-range` where the range is empty or too long
 */
export function* bakeSteps(
  plan: CharacterPlan,
  sceneRate: Rate,
  options: BakeOptions = {},
): Generator<number, Clip> {
  const { frames, skeleton, translated, pieces } = bakePieces(plan, sceneRate, options);
  const rotations = new Float32Array(frames * skeleton.names.length * 4);
  const translations = new Float32Array(frames * translated.length * 3);
  const root = new Float64Array(frames * 3);
  let done = 0;
  let last: Clip | null = null;
  for (const piece of pieces()) {
    rotations.set(piece.rotations, done * skeleton.names.length * 4);
    translations.set(piece.translations, done * translated.length * 3);
    if (piece.travelBone) root.set(piece.travelBone.root, done * 3);
    done += piece.frames;
    last = piece;
    yield done / frames;
  }
  return checkClip({
    ...last!,
    frames,
    rotations,
    translations,
    ...(last!.travelBone ? { travelBone: { ...last!.travelBone, root } } : {}),
  });
}

/** Bakes in one go. */
export function bake(plan: CharacterPlan, sceneRate: Rate, options: BakeOptions = {}): Clip {
  const steps = bakeSteps(plan, sceneRate, options);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** The joints whose places change: those that the clips move, and those that somebody moves alone. */
function translatedJoints({ segments, skeleton, staging }: CharacterPlan): Int32Array {
  const own = segments[0]?.clip.translated ?? Int32Array.of(skeleton.rootBone);
  const moved = staging?.joints.map((i) => staging.holds[i]!.held).filter((j) => !own.includes(j)) ?? [];
  return moved.length > 0 ? Int32Array.of(...own, ...moved.sort((a, b) => a - b)) : own;
}
