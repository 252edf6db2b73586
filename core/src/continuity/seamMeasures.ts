import type { Chosen } from '../scene/choice';
import type { FitMode } from '../scene/seam';
import { cloudJoints } from '../clip/pointCloud';
import type { Pose, PoseBuffer } from '../clip/pose';
import { makePoseBuffer, makeWorldPose, poseToWorld, toParentSpace } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { derivation } from '../memory/memory';
import { dependsOnlyOnPlacement, withPlacement } from '../plan/plan';
import { standAlone } from '../compile/standAlone';
import type { Rate } from '../math/rate';
import type { MadeStep } from '../plan/madeStep';
import type { Swing } from '../steps/swings';
import type { Skeleton } from '../skeleton/skeleton';
import type { CharacterPlan, SegmentPlan, SolvedFit } from '../plan/plan';
import { hasSamples, segmentPose } from '../plan/segmentPose';
import { composeMoves, shortestTurn, unpackMove } from '../math/floorMove';
import type { SeamValues, Thresholds } from '../scene/thresholds';
import type { Grade } from './grade';
import { gradeSeam } from './grade';
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
  readonly kind: 'cut' | 'crossfade' | 'settle' | 'step';
  /** Frames in which a settling seam settles, 0 otherwise. */
  readonly settle: number;
  readonly fit: FitMode;
  readonly fitRemark: string | null;
  /** What was chosen for it; null where it is the user's own. */
  readonly chosen: Chosen | null;
  /** Where the incoming clip was put: metres and degrees. */
  readonly move: { readonly x: number; readonly z: number; readonly turn: number };
  /** Whole floor path of the joint that slides most, with what the sources' own feet move, centimetres. */
  readonly pathCm: number;
  /** Of a made step, when its feet leave and land, frames of the scene, by the role of the foot; a foot that stays has none. */
  readonly footfalls: Readonly<Record<string, readonly (readonly [leaves: number, lands: number])[]>>;
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

/**
 * The measures of a seam. They are kept: what they depend on are the segments in reach and how they stand on each other, so
 * that a seam which only has come to stand elsewhere is not measured again. Where they depend on the place as well (held
 * feet, layers, bent paths, settling), the seam is measured again in every other plan.
 */
export function seamMeasures(
  plan: CharacterPlan,
  index: number,
  framesPerSecond: number,
  thresholds: Thresholds = plan.thresholds,
): SeamMeasures {
  const { memory } = plan;
  const judged = memory.intern(JSON.stringify(thresholds), () => thresholds);
  const reach = reachOf(plan, index, framesPerSecond);
  if (!isRelocatable(plan, reach)) return memory.recall(inPlace, plan, index, framesPerSecond, judged);
  const { travelBone, segments } = plan;
  const first = segments[reach.first]!;
  const stretch = segments.slice(reach.first, reach.last + 1);
  const measured = memory.recall(
    elsewhere,
    plan.skeleton,
    plan.rate,
    travelBone?.joint ?? -1,
    travelBone?.turned ?? false,
    reach.first === 0 ? plan.leadIn : 0,
    index - reach.first,
    framesPerSecond,
    judged,
    ...stretch.flatMap((s) => [s.base!, s.relative, s.start - first.start, s.lift, s.madeStep]),
  );
  const { start, move } = segments[index + 1]!;
  return memory.recall(placed, measured, index, start, move[0]!, move[1]!, move[2]!);
}

/** Measures of a seam that came to stand elsewhere. */
const placed = derivation(
  'placed seam',
  20_000,
  (
    _,
    measures: SeamMeasures,
    index: number,
    start: number,
    x: number,
    z: number,
    turn: number,
  ): SeamMeasures => ({
    ...measures,
    index,
    ...placeOf({ start, move: Float64Array.of(x, z, turn) }),
  }),
);

/** Segments that a seam's measures may depend on, first and last. */
interface Reach {
  readonly first: number;
  readonly last: number;
}

/** The segments that are read for a seam, and one more on either side, which says where they end. */
function reachOf({ segments }: CharacterPlan, index: number, framesPerSecond: number): Reach {
  const after = segments[index + 1]!;
  const margin = Math.max(MARGIN + 2, speedFrames(framesPerSecond) + 1);
  const from = after.start - margin;
  const to = after.start + seamLength(after) + margin;
  let first = index;
  while (first > 0 && segments[first]!.start > from) first--;
  let last = index + 1;
  while (last + 1 < segments.length && segments[last]!.start <= to) last++;
  return { first: Math.max(0, first - 1), last };
}

/** Whether what a stretch shows depends only on its segments and how they stand on each other. */
const isRelocatable = (plan: CharacterPlan, { first, last }: Reach): boolean =>
  !plan.holdsFeet &&
  plan.layers.length === 0 &&
  plan.segments
    .slice(first, last + 1)
    .every((s, i) => s.base !== null && dependsOnlyOnPlacement(s) && (i === 0 || s.relative !== null));

const inPlace = derivation(
  'seam in place',
  5000,
  (_, plan: CharacterPlan, index: number, framesPerSecond: number, thresholds: Thresholds): SeamMeasures =>
    measureSeam(plan, index, framesPerSecond, thresholds),
);

/** A seam measured in a stretch that stands where its first segment was recorded. */
const elsewhere = derivation(
  'seam',
  10_000,
  (
    memory,
    skeleton: Skeleton,
    rate: Rate,
    travelJoint: number,
    travelTurned: boolean,
    leadIn: number,
    index: number,
    framesPerSecond: number,
    thresholds: Thresholds,
    ...stretch: readonly unknown[]
  ): SeamMeasures => {
    const segments: SegmentPlan[] = [];
    for (let i = 0; i < stretch.length; i += 5) {
      const [base, relative, start, lift, madeStep] = stretch.slice(i, i + 5) as StretchPart;
      const before = segments.at(-1);
      const move =
        before && relative ? composeMoves(unpackMove(before.move), relative.move) : { x: 0, z: 0, turn: 0 };
      segments.push({
        ...withPlacement(base, {
          base,
          relative,
          id: '',
          name: '',
          start,
          end: start + base.end,
          move: Float64Array.of(move.x, move.z, move.turn),
          lift,
          fitRemark: relative?.remark ?? null,
        }),
        madeStep,
      });
    }
    const plan = standAlone(skeleton, rate, segments, leadIn, memory);
    const travelBone = travelJoint < 0 ? null : { joint: travelJoint, turned: travelTurned };
    return measureSeam({ ...plan, travelBone }, index, framesPerSecond, thresholds);
  },
);

type StretchPart = [
  base: SegmentPlan,
  relative: SolvedFit | null,
  start: number,
  lift: number,
  madeStep: MadeStep | null,
];

/** Where a seam is: its first frame, and where the incoming clip was put. */
const placeOf = ({
  start,
  move,
}: Pick<SegmentPlan, 'start' | 'move'>): Pick<SeamMeasures, 'frame' | 'move'> => ({
  frame: start,
  move: { x: move[0]!, z: move[1]!, turn: (shortestTurn(move[2]!) * 180) / Math.PI },
});

/** Frames over which a seam blends or settles. */
const seamLength = (after: SegmentPlan): number =>
  after.overlap || Math.min(after.settle?.frames ?? 0, after.end - after.start);

/** Measures the seams of a character, in order. */
export function measureSeams(
  plan: CharacterPlan,
  framesPerSecond: number,
  thresholds: Thresholds = plan.thresholds,
): SeamMeasures[] {
  return plan.segments.slice(1).map((_, i) => seamMeasures(plan, i, framesPerSecond, thresholds));
}

/** Measures the seam between segments `index` and `index + 1`. */
export function measureSeam(
  plan: CharacterPlan,
  index: number,
  framesPerSecond: number,
  thresholds: Thresholds = plan.thresholds,
): SeamMeasures {
  const before = plan.segments[index]!;
  const after = plan.segments[index + 1]!;
  const joints = cloudJoints(plan.skeleton);
  const from = after.start - 1 - MARGIN;
  const length = seamLength(after);
  const count = length + 2 + 2 * MARGIN;
  const buffer = makePoseBuffer(plan.skeleton);
  const played = readWindow(plan, joints, from, count, (f) => evaluate(plan, f, buffer));
  const windows = [before, after].map((segment) =>
    readWindow(plan, joints, from, count, (f) =>
      ownMotion(segment, f, after.start)
        ? toParentSpace(plan.skeleton, segmentPose(segment, f, true, buffer))
        : null,
    ),
  );
  const slide = seamSlide(plan, index, played, windows, joints, from, length);
  const swings = swingsOf(after, joints, from);
  const seam = worstOfSeam(played, windows, joints.length, 1 + MARGIN, length + 1, swings);
  const values: SeamValues = {
    popCm: seam.pop * 100,
    surgeCm: seam.surge * 100,
    turnDegrees: seam.turn,
    slideCm: slide.beyond * 100,
    hitch: seam.hitch,
  };
  return {
    index,
    ...placeOf(after),
    overlap: after.overlap,
    kind: kindOf(after),
    settle: after.settle?.frames ?? 0,
    fit: after.settings.seam.fit,
    fitRemark: after.fitRemark,
    chosen: after.settings.seam.chosen,
    ...values,
    pathCm: slide.path * 100,
    footfalls: footfallsOf(after),
    speedBefore: rootSpeed(plan, buffer, framesPerSecond, after.start - 1, -1),
    speedAfter: rootSpeed(plan, buffer, framesPerSecond, after.start + after.overlap, 1),
    worstJoint: plan.skeleton.names[joints[seam.joint]!]!,
    ...gradeSeam(values, thresholds),
  };
}

function kindOf({ overlap, settle, madeStep }: SegmentPlan): SeamMeasures['kind'] {
  if (overlap > 0) return madeStep ? 'step' : 'crossfade';
  return settle ? 'settle' : 'cut';
}

function footfallsOf({ madeStep, start, clip }: SegmentPlan): SeamMeasures['footfalls'] {
  if (!madeStep) return NO_FOOTFALLS;
  return Object.fromEntries(
    madeStep.legs.map(({ ankle }, i) => {
      const { leaves, lands, swings } = madeStep.feet[i]!;
      return [clip.skeleton.roles[ankle]!, swings ? [[start + leaves, start + lands] as const] : []];
    }),
  );
}

const NO_FOOTFALLS: SeamMeasures['footfalls'] = {};

/** When the joints of a window swing in a made step, which is judged by ordinary swings of the same clips. */
interface Swings {
  /** First and last frame of the window, by joint; NaN where it does not swing. */
  readonly first: Float64Array;
  readonly last: Float64Array;
  readonly ordinary: Swing;
}

function swingsOf({ madeStep, start }: SegmentPlan, joints: readonly number[], from: number): Swings | null {
  if (!madeStep) return null;
  const first = new Float64Array(joints.length).fill(NaN);
  const last = new Float64Array(joints.length).fill(NaN);
  madeStep.legs.forEach(({ lower, ankle, tip }, i) => {
    const { leaves, lands, swings } = madeStep.feet[i]!;
    if (!swings) return;
    for (const column of [lower, ankle, tip].map((j) => joints.indexOf(j)))
      if (column >= 0) [first[column], last[column]] = [start + leaves - from, start + lands - from + 1];
  });
  return { first, last, ordinary: madeStep.ordinary };
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
  read: (frame: number) => Pose | null,
): Window {
  const places = new Float64Array(count * joints.length * 3).fill(NaN);
  const roots = new Float64Array(count * 3).fill(NaN);
  const world = makeWorldPose(plan.skeleton);
  for (let i = 0; i < count; i++) {
    const pose = read(from + i);
    if (!pose) continue;
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
  windows: readonly Window[],
  joints: number,
  first: number,
  count: number,
  swings: Swings | null,
): { pop: number; surge: number; turn: number; hitch: number; joint: number } {
  const worst = { pop: 0, surge: 0, turn: 0, hitch: 1, joint: 0 };
  const peaks = { played: 0, own: 0 };
  const around = Math.max(headingStep(played, first - 1), headingStep(played, first + count));
  for (let f = first; f < first + count; f++) {
    for (let j = 0; j < joints; j++) {
      const swing = swings && f >= swings.first[j]! && f <= swings.last[j]! ? swings.ordinary : NO_SWING;
      const ownPop = largest(windows, (w) => popAt(w, f, j, joints));
      const ownStep = largest(windows, (w) => stepAt(w, f, j, joints));
      const pop = popAt(played, f, j, joints) - Math.max(ownPop, swing.pop);
      const surge = stepAt(played, f, j, joints) - Math.max(ownStep, swing.speed);
      if (Math.max(pop, surge) > Math.max(worst.pop, worst.surge)) worst.joint = j;
      // An acceleration touches the step before and the step after its frame.
      peaks.played = Math.max(
        peaks.played,
        accelerationAt(played, f - 1, j, joints),
        accelerationAt(played, f, j, joints),
      );
      peaks.own = Math.max(
        peaks.own,
        swing.acceleration,
        largest(windows, (w) =>
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
        largest(windows, (w) => headingStep(w, f)),
      );
    worst.turn = Math.max(worst.turn, (turn * 180) / Math.PI);
  }
  worst.hitch = peaks.played / Math.max(peaks.own, STILL_ACCELERATION);
  return worst;
}

const NO_SWING: Swing = { speed: 0, acceleration: 0, pop: 0 };

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

const speedFrames = (framesPerSecond: number): number =>
  Math.max(1, Math.round(SPEED_SECONDS * framesPerSecond));

/** Net speed of the root from a frame on, before (-1) or after (1) it, metres a second; 0 beyond the performance. */
function rootSpeed(
  plan: CharacterPlan,
  buffer: PoseBuffer,
  framesPerSecond: number,
  frame: number,
  way: 1 | -1,
): number {
  const frames = speedFrames(framesPerSecond);
  const far = Math.min(Math.max(frame + way * frames, plan.start), plan.end - 1);
  const near = Math.min(Math.max(frame, plan.start), plan.end - 1);
  if (far === near) return 0;
  const { root } = evaluate(plan, near, buffer);
  const [x, z] = [root[0]!, root[1]!];
  const pose = evaluate(plan, far, buffer);
  return (Math.hypot(pose.root[0]! - x, pose.root[1]! - z) * framesPerSecond) / Math.abs(far - near);
}
