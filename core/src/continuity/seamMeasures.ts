import { onBodyLane } from '../plan/upToLayer';
import { standAlone } from '../compile/standAlone';
import { composeMoves, unpackMove } from '../math/floorMove';
import type { Rate } from '../math/rate';
import { derivation } from '../memory/memory';
import type { MadeStep } from '../plan/madeStep';
import type { CharacterPlan, SegmentPlan, SolvedFit } from '../plan/plan';
import { dependsOnlyOnPlacement, withPlacement } from '../plan/plan';
import type { Thresholds } from '../scene/thresholds';
import type { Skeleton } from '../skeleton/skeleton';
import type { SeamMeasures } from './measureSeam';
import { MARGIN, measureSeam, placeOf, seamLength, speedFrames } from './measureSeam';

/**
 * The measures of a seam. They are kept: what they depend on are the segments in reach and how they stand on each other, so
 * that a seam which only has come to stand elsewhere is not measured again. Where they depend on the place as well (held
 * feet, bent paths, settling), the seam is measured again in every other plan.
 */
export function seamMeasures(
  performed: CharacterPlan,
  index: number,
  framesPerSecond: number,
  thresholds: Thresholds = performed.thresholds,
): SeamMeasures {
  const plan = onBodyLane(performed);
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

/** Measures the seams of a character, in order. */
export function measureSeams(
  plan: CharacterPlan,
  framesPerSecond: number,
  thresholds: Thresholds = plan.thresholds,
): SeamMeasures[] {
  return plan.segments.slice(1).map((_, i) => seamMeasures(plan, i, framesPerSecond, thresholds));
}
