import { makePoseBuffer } from '../clip/pose';
import type { Library } from '../compile/compile';
import type { SeamMeasures } from '../continuity/measureSeam';
import { applyEdit } from '../edit/edit';
import type { Join } from '../edit/edits/join';
import { shortestTurn } from '../math/floorMove';
import { segmentPose } from '../plan/segmentPose';
import type { ChoiceLimits } from '../scene/choice';
import type { Scene } from '../scene/scene';
import type { SeamValues, Thresholds } from '../scene/thresholds';
import { DEFAULT_THRESHOLDS, SHOT_SIZES } from '../scene/thresholds';
import type { Candidate } from './candidates';
import { candidatesOf, plainCandidate } from './candidates';
import { describeChoice } from './describeChoice';
import type { MeasuredJoin } from './measureJoin';
import { measureJoin, measurePair } from './measureJoin';
import { pairOf } from './pairOnLane';
import { plainJoin } from './plainJoin';

/** A join that was chosen. */
export interface JoinChoice {
  /** What makes the join so. */
  readonly edit: Join;
  readonly measures: SeamMeasures;
  /** The join as a plain crossfade, as it is dropped. */
  readonly before: SeamMeasures;
}

/** What a second that is lost, or gained, at either end costs, in thresholds of a measure. */
const LOST_SECOND = 0.5;
/** What a step costs that is made, and a cut that settles, though a crossfade would do. */
const KIND_COST: Readonly<Record<SeamMeasures['kind'], number>> = {
  crossfade: 0,
  cut: 0,
  settle: 0.15,
  step: 0.3,
};
/** What a join costs that is to be looked at, and one that is bad, on top of its measures. */
export const GRADE_COST = { good: 0, watch: 1, bad: 2 };
/** What it costs to join otherwise than plainly where the plain join is good. */
const OTHER_COST = 0.25;
/** Radians by which the fit of the bodies may turn one side away from the other's heading. */
const MOST_TURNED = Math.PI / 2;

const MEASURES = ['popCm', 'surgeCm', 'turnDegrees', 'slideCm', 'hitch'] as const;

/**
 * How badly a join misses its thresholds: the fourth root of the sum of fourth powers, so that the worst counts most. A hitch
 * counts by what it is above that of the sources.
 */
export function joinCost(values: SeamValues, thresholds: Thresholds = DEFAULT_THRESHOLDS): number {
  let sum = 0;
  for (const key of MEASURES) {
    const least = key === 'hitch' ? 1 : 0;
    const ratio = (values[key] - least) / (thresholds[key].watch - least);
    sum += Math.max(0, ratio) ** 4;
  }
  return Math.sqrt(Math.sqrt(sum));
}

/**
 * Chooses how a segment joins the one before it: which frames meet, over how many frames, by a crossfade, a settle or a made step,
 * fitted by what. Candidates are the best matches of the two motions within the limits; the most promising are measured, and the
 * one that costs least is taken.
 *
 * @returns null for a segment that has none before it, or goes on with its loop or its motion
 */
export function chooseJoin(
  scene: Scene,
  segment: string,
  library: Library,
  limits: ChoiceLimits,
): JoinChoice | null {
  // Begun from the plain join: what is chosen does not depend on what was there, and what an earlier choice has trimmed is there again.
  const plain = plainJoin(scene, segment, library);
  const pair = plain && pairOf(applyEdit(scene, plain, library), segment, library);
  if (!pair) return null;
  const before = measurePair(pair.scene, library);
  const plainOne = plainCandidate(pair);
  const candidates = [plainOne, ...candidatesOf(pair, library, limits)];
  let best: { readonly cost: number; readonly trial: MeasuredJoin; readonly candidate: Candidate } | null =
    null;
  for (const candidate of candidates) {
    const lost = LOST_SECOND * candidate.lostSeconds;
    // What it costs without being measured: no measure costs less than nothing.
    if (best && lost + (candidate === plainOne ? 0 : OTHER_COST) >= best.cost) continue;
    const trial = tryJoin(pair.scene, candidate.edit, library);
    if (!trial) continue;
    const { measures } = trial;
    const cost =
      joinCost(measures, SHOT_SIZES[scene.shotSize]) +
      GRADE_COST[measures.grade] +
      lost +
      KIND_COST[measures.kind] +
      (candidate === plainOne && measures.grade === 'good' ? 0 : OTHER_COST);
    if (!best || cost < best.cost) best = { cost, trial, candidate };
  }
  if (!best) return null;
  const { candidate, trial } = best;
  const { edit } = candidate;
  const changed = {
    out: edit.before - pair.before.timing.frames,
    in: edit.own - pair.item.timing.frames,
  };
  const chosen = describeChoice(candidate.pair, changed, trial, before.measures);
  return {
    edit: { ...edit, values: { ...plain.values, ...edit.values, auto: true, chosen } },
    measures: trial.measures,
    before: before.measures,
  };
}

/** Tries a join; null where it cannot be, or would blend bodies that face away from each other. */
function tryJoin(scene: Scene, edit: Join, library: Library): MeasuredJoin | null {
  const trial = measureJoin(scene, edit, library);
  return trial && edit.join.kind !== 'step' && isTurnedAway(trial) ? null : trial;
}

/** Whether the fit has put the incoming side so that it faces away from the outgoing one where they meet. */
function isTurnedAway({ sides, measures }: MeasuredJoin): boolean {
  const frame = measures.frame + measures.overlap / 2;
  const [a, b] = sides.map(
    (side) => segmentPose(side, frame, true, makePoseBuffer(side.clip.skeleton)).root[2]!,
  );
  return Math.abs(shortestTurn(a! - b!)) > MOST_TURNED;
}
