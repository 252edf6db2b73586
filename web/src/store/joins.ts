import type { CharacterPlan, Plan, SeamMeasures } from '@warper/core';
import { defined } from '@warper/core';
import { seamOf } from './plan';

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
