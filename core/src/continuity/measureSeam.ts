import { layerWeight } from '../evaluate/layerWeight';
import { segmentAt } from '../plan/segmentAt';
import { onBodyLane } from '../plan/upToLayer';
import type { Chosen } from '../scene/choice';
import type { FitMode } from '../scene/seam';
import type { SeamValues, Thresholds } from '../scene/thresholds';
import { cloudJoints } from '../clip/pointCloud';
import type { PoseBuffer } from '../clip/pose';
import { makePoseBuffer } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { shortestTurn } from '../math/floorMove';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { worksAlone } from '../plan/plan';
import type { Grade } from './grade';
import { gradeSeam } from './grade';
import { seamSlide } from './seamSlide';
import { readWindow, sourceReader } from './window';
import type { Swings } from './worstOfSeam';
import { worstOfSeam } from './worstOfSeam';

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
export const MARGIN = 2;

/** Where a seam is: its first frame, and where the incoming clip was put. */
export const placeOf = ({
  start,
  move,
}: Pick<SegmentPlan, 'start' | 'move'>): Pick<SeamMeasures, 'frame' | 'move'> => ({
  frame: start,
  move: { x: move[0]!, z: move[1]!, turn: (shortestTurn(move[2]!) * 180) / Math.PI },
});

/** Frames over which a seam blends or settles. */
export const seamLength = (after: SegmentPlan): number =>
  after.overlap || Math.min(after.settle?.frames ?? 0, after.end - after.start);

/** Whether any layer or look does something in the frames in which a seam is measured. */
function hasLayersOver({ layers, looks, segments }: CharacterPlan, index: number): boolean {
  const after = segments[index + 1]!;
  const from = after.start - 1 - MARGIN;
  const count = seamLength(after) + 2 + 2 * MARGIN;
  const frames = Array.from({ length: count }, (_, i) => from + i);
  if (looks.some((look) => frames.some((f) => f >= look.start && f < look.end))) return true;
  return layers.some((layer) =>
    frames.some((f) => {
      if (!(layerWeight(layer, f) > 0)) return false;
      const segment = layer.segments[segmentAt(layer.segments, f)];
      return worksAlone(layer) || (segment !== undefined && f < segment.end);
    }),
  );
}

/** Measures the seam between segments `index` and `index + 1` below all layers and looks: what those do is measured as theirs. */
export const measureSeam = (
  performed: CharacterPlan,
  index: number,
  framesPerSecond: number,
  thresholds: Thresholds = performed.thresholds,
): SeamMeasures => measurePerformed(onBodyLane(performed), index, framesPerSecond, thresholds);

function measurePerformed(
  plan: CharacterPlan,
  index: number,
  framesPerSecond: number,
  thresholds: Thresholds,
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
    readWindow(plan, joints, from, count, sourceReader(segment, after.start, buffer)),
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

/** The same seam measured in what is performed, with all layers and looks; null where none does anything there. */
export const seamWithLayers = (
  plan: CharacterPlan,
  index: number,
  framesPerSecond: number,
): SeamMeasures | null =>
  hasLayersOver(plan, index) ? measurePerformed(plan, index, framesPerSecond, plan.thresholds) : null;

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

/** Seconds over which the root's speed beside a seam is taken, so that the sway within a step does not count. */
const SPEED_SECONDS = 0.5;

export const speedFrames = (framesPerSecond: number): number =>
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
