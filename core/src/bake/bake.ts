import type { Clip } from '../clip/clip';
import { checkClip } from '../clip/clip';
import { placeTravelBone } from '../clip/travelBone';
import { makePoseBuffer, toSceneSpace } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import type { CharacterPlan } from '../plan/plan';
import { InputError } from '../math/errors';
import { quatNormalize } from '../math/quaternion';
import type { Rate } from '../math/rate';
import { framesPerSecond } from '../math/rate';

/** What to bake. */
export interface BakeOptions {
  /** First scene frame, and the one after the last; default the character's whole span. */
  readonly from?: number;
  readonly to?: number;
  /** Samples a second of the result; default the scene's rate. */
  readonly rate?: number;
  /** `in place` holds the root's x and z where they are at the first frame. */
  readonly travel?: 'recorded' | 'in place';
}

/** Frames baked between two reports of progress. */
const FRAMES_PER_STEP = 64;

/** Longest result: what a clip may hold. */
const MOST_FRAMES = 1_000_000;

/** Samples that frames [from, to) of a scene make at another rate: floor((to - from) R'/R + 0.5). */
export const bakedFrames = (from: number, to: number, rate: number, sceneRate: number): number =>
  Math.floor(((to - from) * rate) / sceneRate + 0.5 + ROUNDING);

/** Sums that should be whole may miss it by this much. */
const ROUNDING = 1e-9;

/**
 * Computes a character's performance into one clip: floor((to - from) R'/R + 0.5) samples, sample j at scene frame
 * from + j R/R'. Yields the finished share (0..1) now and then, so that the caller can report it or stop.
 *
 * @throws InputError `bake-range` where the range is empty or too long
 */
export function* bakeSteps(
  plan: CharacterPlan,
  sceneRate: Rate,
  options: BakeOptions = {},
): Generator<number, Clip> {
  const from = options.from ?? plan.start;
  const to = options.to ?? plan.end;
  const R = framesPerSecond(sceneRate);
  const rate = options.rate ?? R;
  const frames = bakedFrames(from, to, rate, R);
  if (!(frames >= 1) || frames > MOST_FRAMES) {
    throw new InputError(
      'bake-range',
      `Frames ${from} to ${to} make ${frames} samples; 1 to ${MOST_FRAMES} can be baked.`,
      {
        hint: 'The end is not part of the range; choose one after the start.',
      },
    );
  }
  const { skeleton, travelBone } = plan;
  const joints = skeleton.names.length;
  const translated = translatedJoints(plan);
  const rotations = new Float32Array(frames * joints * 4);
  const translations = new Float32Array(frames * translated.length * 3);
  const buffer = makePoseBuffer(skeleton);
  const hold = new Float64Array(2);
  const roots = new Float64Array(frames * 3);
  for (let j = 0; j < frames; j++) {
    const pose = toSceneSpace(skeleton, evaluate(plan, from + (j * R) / rate, buffer));
    if (j === 0) hold.set(pose.root.subarray(0, 2));
    if (options.travel === 'in place') {
      pose.translations[skeleton.rootBone * 3]! += hold[0]! - pose.root[0]!;
      pose.translations[skeleton.rootBone * 3 + 2]! += hold[1]! - pose.root[1]!;
      pose.root.set(hold);
      if (travelBone) placeTravelBone(skeleton, travelBone.joint, travelBone.turned, pose);
    }
    roots.set(pose.root, j * 3);
    for (let q = 0; q < joints * 4; q += 4) quatNormalize(pose.rotations, q);
    rotations.set(pose.rotations, j * joints * 4);
    translated.forEach((joint, i) =>
      translations.set(pose.translations.subarray(joint * 3, joint * 3 + 3), (j * translated.length + i) * 3),
    );
    if (j % FRAMES_PER_STEP === FRAMES_PER_STEP - 1) yield (j + 1) / frames;
  }
  return checkClip({
    id: `bake:${plan.character.id}`,
    name: plan.character.name,
    skeleton,
    rate,
    frames,
    rotations,
    translated,
    translations,
    ...(travelBone ? { travelBone: { ...travelBone, root: roots } } : {}),
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

function translatedJoints(plan: CharacterPlan): Int32Array {
  return plan.segments[0]?.clip.translated ?? Int32Array.of(plan.skeleton.rootBone);
}
