import { cloudJoints } from '../clip/pointCloud';
import type { Pose } from '../clip/pose';
import { makePose, makeWorldPose, poseToWorld } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { hasSamples, segmentPose } from '../plan/segmentPose';
import { shortestTurn } from '../math/floorMove';
import { rootBoneToLocal } from '../skeleton/rootBone';
import type { Grade, SeamValues, Thresholds } from './grade';
import { DEFAULT_THRESHOLDS, gradeSeam } from './grade';
import { seamSlide } from './seamSlide';
import type { Window } from './window';

/**
 * The measured quality of one seam; of the worst joint each, see docs/motion.md, "Measures". `popCm`: |step - mean of the
 * steps before and after|, less the sources' own. `surgeCm`: largest step beyond both sources' at the same frames, a
 * frame. `turnDegrees`: heading step beyond those just outside the seam and the sources'. `slideCm`: floor path of a
 * planted joint within the seam. `hitch`: peak acceleration by that of the sources over the same frames.
 */
export interface SeamMeasures extends SeamValues {
  /** Number of the seam on its lane; seam i joins segment i to segment i + 1. */
  readonly index: number;
  /** First frame of the incoming segment. */
  readonly frame: number;
  readonly overlap: number;
  readonly kind: 'cut' | 'crossfade' | 'settle';
  /** Frames in which a settling seam settles, 0 otherwise. */
  readonly settle: number;
  readonly fit: SegmentPlan['fit'];
  readonly fitRemark: string | null;
  /** Where the incoming clip was put: metres and degrees. */
  readonly move: { readonly x: number; readonly z: number; readonly turn: number };
  /** Root speed before and after, metres a second. */
  readonly speedBefore: number;
  readonly speedAfter: number;
  /** Name of the joint that pops or surges most. */
  readonly worstJoint: string;
  readonly grade: Grade;
  /** The measure that is nearest to, or furthest beyond, its threshold. */
  readonly worst: keyof SeamValues;
}

/** Frames read before and after a seam, so that a step has neighbours. */
const MARGIN = 2;

/** What a seam was measured in: while all of it is the same, so are its measures. */
interface Measured {
  readonly around: readonly unknown[];
  readonly measures: SeamMeasures;
}

const known = new WeakMap<object, Measured>();

/**
 * The measures of a seam, made again only where an edit has touched it: the segments on both sides and their neighbours,
 * what lies over them, and how they are judged. With held feet, which a step far away may move, everything counts. Where
 * all of that has only come to stand elsewhere, what was measured still holds.
 */
export function seamMeasures(
  plan: CharacterPlan,
  index: number,
  framesPerSecond: number,
  thresholds: Thresholds = DEFAULT_THRESHOLDS,
): SeamMeasures {
  const own = plan.segments[index + 1]!;
  const near = plan.holdsFeet ? plan.segments : plan.segments.slice(Math.max(0, index - 2), index + 5);
  const shapes = near.map((s) => s.shape);
  // Layers lie at frames of the scene, whatever stands below them.
  const frame = plan.layers.length > 0 ? own.start : null;
  const around = [framesPerSecond, thresholds, plan.layers, plan.character.footLock, frame, ...shapes];
  const made = known.get(own.shape);
  if (made && made.around.length === around.length && made.around.every((v, i) => v === around[i])) {
    const { measures } = made;
    const place = placeOf(own);
    const { move } = measures;
    if (
      measures.index === index &&
      measures.frame === place.frame &&
      move.x === place.move.x &&
      move.z === place.move.z &&
      move.turn === place.move.turn
    )
      return measures;
    const moved = { ...measures, index, ...place };
    known.set(own.shape, { around, measures: moved });
    return moved;
  }
  const measures = measureSeam(plan, index, framesPerSecond, thresholds);
  known.set(own.shape, { around, measures });
  return measures;
}

/** Where a seam is: its first frame, and where the incoming clip was put. */
const placeOf = ({ start, move }: SegmentPlan): Pick<SeamMeasures, 'frame' | 'move'> => ({
  frame: start,
  move: { x: move[0]!, z: move[1]!, turn: (shortestTurn(move[2]!) * 180) / Math.PI },
});

/** Measures the seams of a character, in order. */
export function measureSeams(
  plan: CharacterPlan,
  framesPerSecond: number,
  thresholds: Thresholds = DEFAULT_THRESHOLDS,
): SeamMeasures[] {
  return plan.segments.slice(1).map((_, i) => seamMeasures(plan, i, framesPerSecond, thresholds));
}

/** Measures the seam between segments `index` and `index + 1`. */
export function measureSeam(
  plan: CharacterPlan,
  index: number,
  framesPerSecond: number,
  thresholds: Thresholds = DEFAULT_THRESHOLDS,
): SeamMeasures {
  const before = plan.segments[index]!;
  const after = plan.segments[index + 1]!;
  const joints = cloudJoints(plan.skeleton);
  const from = after.start - 1 - MARGIN;
  const length = after.overlap || Math.min(after.settle?.frames ?? 0, after.end - after.start);
  const count = length + 2 + 2 * MARGIN;
  const pose = makePose(plan.skeleton);
  const played = readWindow(plan, joints, from, count, pose, (f) => {
    evaluate(plan, f, pose);
    return true;
  });
  const own = [before, after].map((segment) =>
    readWindow(plan, joints, from, count, pose, (f) => {
      if (!ownMotion(segment, f, after.start)) return false;
      segmentPose(segment, f, true, pose);
      rootBoneToLocal(plan.skeleton, pose.rotations, pose.translations);
      return true;
    }),
  );
  const slideCm = seamSlide(plan, index, played, joints, from, length) * 100;
  const seam = worstOfSeam(played, own, joints.length, 1 + MARGIN, length + 1);
  const values: SeamValues = {
    popCm: seam.pop * 100,
    surgeCm: seam.surge * 100,
    turnDegrees: seam.turn,
    slideCm,
    hitch: seam.hitch,
  };
  return {
    index,
    ...placeOf(after),
    overlap: after.overlap,
    kind: after.overlap > 0 ? 'crossfade' : after.settle ? 'settle' : 'cut',
    settle: after.settle?.frames ?? 0,
    fit: after.fit,
    fitRemark: after.fitRemark,
    ...values,
    speedBefore: rootSpeed(plan, pose, framesPerSecond, after.start - 1, -1),
    speedAfter: rootSpeed(plan, pose, framesPerSecond, after.start + after.overlap, 1),
    worstJoint: plan.skeleton.names[joints[seam.joint]!]!,
    ...gradeSeam(values, thresholds),
  };
}

/** Whether a source shows motion of its own at a frame; one that ended before a gap holds still. */
function ownMotion(segment: SegmentPlan, frame: number, seamFrame: number): boolean {
  if (!hasSamples(segment, frame)) return false;
  return !(segment.end < seamFrame && frame > segment.end - 1);
}

function readWindow(
  plan: CharacterPlan,
  joints: readonly number[],
  from: number,
  count: number,
  pose: Pose,
  read: (frame: number) => boolean,
): Window {
  const places = new Float64Array(count * joints.length * 3).fill(NaN);
  const roots = new Float64Array(count * 3).fill(NaN);
  const world = makeWorldPose(plan.skeleton);
  for (let i = 0; i < count; i++) {
    if (!read(from + i)) continue;
    poseToWorld(plan.skeleton, pose, world);
    roots.set(pose.root, i * 3);
    joints.forEach((joint, j) => {
      for (let k = 0; k < 3; k++) places[(i * joints.length + j) * 3 + k] = world.positions[joint * 3 + k]!;
    });
  }
  return { places, roots };
}

/** Worst pop, surge (metres) and turn (degrees) over the steps first..first + count - 1. */
function worstOfSeam(
  played: Window,
  own: readonly Window[],
  joints: number,
  first: number,
  count: number,
): { pop: number; surge: number; turn: number; hitch: number; joint: number } {
  const worst = { pop: 0, surge: 0, turn: 0, hitch: 1, joint: 0 };
  const peaks = { played: 0, own: 0 };
  const around = Math.max(headingStep(played, first - 1), headingStep(played, first + count));
  for (let f = first; f < first + count; f++) {
    for (let j = 0; j < joints; j++) {
      const pop = popAt(played, f, j, joints) - largest(own, (w) => popAt(w, f, j, joints));
      const surge = stepAt(played, f, j, joints) - largest(own, (w) => stepAt(w, f, j, joints));
      if (Math.max(pop, surge) > Math.max(worst.pop, worst.surge)) worst.joint = j;
      // An acceleration touches the step before and the step after its frame.
      peaks.played = Math.max(
        peaks.played,
        accelerationAt(played, f - 1, j, joints),
        accelerationAt(played, f, j, joints),
      );
      peaks.own = Math.max(
        peaks.own,
        largest(own, (w) =>
          Math.max(accelerationAt(w, f - 1, j, joints) || 0, accelerationAt(w, f, j, joints) || 0),
        ),
      );
      worst.pop = Math.max(worst.pop, pop);
      worst.surge = Math.max(worst.surge, surge);
    }
    const turn =
      headingStep(played, f) -
      Math.max(
        around,
        largest(own, (w) => headingStep(w, f)),
      );
    worst.turn = Math.max(worst.turn, (turn * 180) / Math.PI);
  }
  worst.hitch = peaks.played / Math.max(peaks.own, STILL_ACCELERATION);
  return worst;
}

/**
 * Acceleration (metres a frame a frame) below which sources count as still: a joint that starts to move beside one that
 * rests is no hitch before it moves by millimetres.
 */
const STILL_ACCELERATION = 0.002;

/** Size of the acceleration of joint j at frame f, metres a frame a frame. */
function accelerationAt({ places }: Window, f: number, j: number, joints: number): number {
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const at = (frame: number): number => places[(frame * joints + j) * 3 + k]!;
    const a = at(f + 1) - 2 * at(f) + at(f - 1);
    sum += a * a;
  }
  return Math.sqrt(sum);
}

/** The largest known value of the sources, 0 where none has samples there. */
const largest = (windows: readonly Window[], value: (w: Window) => number): number =>
  windows.reduce((most, w) => {
    const v = value(w);
    return v > most ? v : most;
  }, 0);

/** Length of the step of joint j into frame f, metres. */
function stepAt({ places }: Window, f: number, j: number, joints: number): number {
  const a = ((f - 1) * joints + j) * 3;
  const b = (f * joints + j) * 3;
  return Math.hypot(
    places[b]! - places[a]!,
    places[b + 1]! - places[a + 1]!,
    places[b + 2]! - places[a + 2]!,
  );
}

/** |step - mean of the steps before and after| of joint j at frame f, as a vector, metres. */
function popAt({ places }: Window, f: number, j: number, joints: number): number {
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const at = (frame: number): number => places[(frame * joints + j) * 3 + k]!;
    const step = at(f) - at(f - 1);
    const mean = (at(f - 1) - at(f - 2) + at(f + 1) - at(f)) / 2;
    sum += (step - mean) * (step - mean);
  }
  return Math.sqrt(sum);
}

const headingStep = ({ roots }: Window, f: number): number =>
  Math.abs(shortestTurn(roots[f * 3 + 2]! - roots[f * 3 - 1]!));

/** Seconds over which the root's speed beside a seam is taken, so that the sway within a step does not count. */
const SPEED_SECONDS = 0.5;

/** Net speed of the root from a frame on, before (-1) or after (1) it, metres a second; 0 beyond the performance. */
function rootSpeed(
  plan: CharacterPlan,
  pose: Pose,
  framesPerSecond: number,
  frame: number,
  way: 1 | -1,
): number {
  const frames = Math.max(1, Math.round(SPEED_SECONDS * framesPerSecond));
  const far = Math.min(Math.max(frame + way * frames, plan.start), plan.end - 1);
  const near = Math.min(Math.max(frame, plan.start), plan.end - 1);
  if (far === near) return 0;
  evaluate(plan, near, pose);
  const [x, z] = [pose.root[0]!, pose.root[1]!];
  evaluate(plan, far, pose);
  return (Math.hypot(pose.root[0]! - x, pose.root[1]! - z) * framesPerSecond) / Math.abs(far - near);
}
