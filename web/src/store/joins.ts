import type { CharacterPlan, Edit, Plan, Scene, SeamMeasures } from '@warper/core';
import { DEFAULT_THRESHOLDS, applyEdit, defined } from '@warper/core';
import { library } from '../data/pageLibrary';
import { compileScene, seamOf } from './plan';

/** A join that an edit has made worse. */
export interface WorseJoin {
  /** Id of the incoming segment. */
  readonly segment: string;
  readonly from: string;
  readonly to: string;
  readonly measures: SeamMeasures;
}

const GRADES = ['good', 'watch', 'bad'] as const;

interface Join {
  readonly from: string;
  readonly grade: number;
}

/** The joins of a character by their incoming segment. */
function joinsOf(plan: CharacterPlan, rate: Plan['rate']): Map<string, Join> {
  const joins = new Map<string, Join>();
  for (let i = 1; i < plan.segments.length; i++)
    joins.set(defined(plan.segments[i]).id, {
      from: defined(plan.segments[i - 1]).id,
      grade: GRADES.indexOf(seamOf(plan, i - 1, rate).grade),
    });
  return joins;
}

/**
 * The joins that are worse after an edit than what was there before: the same join, or the better of those that its two sides had
 * before they came together. What had no neighbour before cannot be worse.
 */
export function worseJoins(before: Plan, after: Plan): WorseJoin[] {
  const worse: WorseJoin[] = [];
  for (const plan of after.characters) {
    const old = before.characters.find((c) => c.character.id === plan.character.id);
    if (!old || old === plan) continue;
    const joins = joinsOf(old, before.rate);
    const following = new Map([...joins].map(([segment, join]) => [join.from, { segment, ...join }]));
    for (let i = 1; i < plan.segments.length; i++) {
      const [a, b] = [defined(plan.segments[i - 1]), defined(plan.segments[i])];
      const incoming = joins.get(b.id);
      const known = [incoming?.grade, following.get(a.id)?.grade].filter((g) => g !== undefined);
      if (known.length === 0) continue;
      const measures = seamOf(plan, i - 1, after.rate);
      if (GRADES.indexOf(measures.grade) > Math.max(...known))
        worse.push({ segment: b.id, from: a.name, to: b.name, measures });
    }
  }
  return worse;
}

/** How bad a join is: the measures against their thresholds, the worst counting most. */
const costOf = (m: SeamMeasures): number =>
  (['popCm', 'surgeCm', 'turnDegrees', 'slideCm', 'hitch'] as const).reduce(
    (sum, key) => sum + (m[key] / DEFAULT_THRESHOLDS[key].watch) ** 4,
    0,
  ) ** 0.25;

/** What can be tried on a join, simplest first. */
const mendsOf = (segment: string): readonly (readonly Edit[])[] => {
  const auto: Edit = { type: 'overlap', segment, frames: 'auto' };
  const planted: Edit = { type: 'seam', segment, values: { fit: 'planted foot' } };
  const body: Edit = { type: 'seam', segment, values: { fit: 'whole body' } };
  const settle: Edit = { type: 'seam', segment, values: {}, join: { kind: 'settle', frames: 9 } };
  return [
    [planted],
    [body],
    [auto],
    [planted, auto],
    [body, auto],
    [{ ...auto, frames: 0 }, planted, settle],
  ];
};

/** The edit that makes a join best, of a few; null where none is better than what there is. */
export function mendOf(scene: Scene, segment: string): Edit | null {
  const measured = (candidate: Scene): number => {
    const { plan, error } = compileScene(candidate);
    if (error) return Infinity;
    for (const c of plan.characters) {
      const index = c.segments.findIndex((s) => s.id === segment);
      if (index > 0) return costOf(seamOf(c, index - 1, plan.rate));
    }
    return Infinity;
  };
  let best: { cost: number; edits: readonly Edit[] } | null = null;
  for (const edits of mendsOf(segment)) {
    try {
      const cost = measured(edits.reduce((s, e) => applyEdit(s, e, library), scene));
      if (cost < (best?.cost ?? measured(scene) - 1e-6)) best = { cost, edits };
    } catch {
      // What cannot be done here is no mend.
    }
  }
  const name = scene.segments[segment]?.name ?? '';
  return best && { type: 'several', label: `mend of the seam before ${name}`, edits: best.edits };
}
