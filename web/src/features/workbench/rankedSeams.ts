import type { CharacterPlan, Grade, Plan, SegmentPlan } from '@warper/core';
import { defined } from '@warper/core';
import { seamOf } from '../../store/plan';

const RANK: Readonly<Record<Grade, number>> = { bad: 2, watch: 1, good: 0 };

/** A seam with both its sides, and how good it is. */
export interface RankedSeam {
  readonly character: CharacterPlan;
  readonly from: SegmentPlan;
  /** The incoming segment. */
  readonly segment: SegmentPlan;
  readonly measures: ReturnType<typeof seamOf>;
}

/** All seams of a plan, worst first. */
export const rankedSeams = (plan: Plan): RankedSeam[] =>
  plan.characters
    .flatMap((character) =>
      character.segments.slice(1).map((segment, i) => ({
        character,
        segment,
        from: defined(character.segments[i]),
        measures: seamOf(character, i, plan.rate),
      })),
    )
    .sort((a, b) => rankOf(b) - rankOf(a) || lengthOf(b) - lengthOf(a));

const rankOf = ({ measures }: RankedSeam): number => RANK[measures.grade];
const lengthOf = ({ measures }: RankedSeam): number => measures.popCm + measures.surgeCm;
