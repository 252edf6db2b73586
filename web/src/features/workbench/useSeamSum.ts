import type { CharacterPlan, Plan } from '@warper/core';
import { useEffect, useState } from 'react';
import { seamOf } from '../../store/plan';

/** How many seams there are, and how many of them want to be looked at. */
export interface SeamSum {
  readonly count: number;
  readonly open: number;
}

/** Milliseconds of measuring between two pictures. */
const SLICE = 4;
/** Milliseconds without a change after which it begins: a drag makes a plan with every move. */
const SETTLE = 120;

const sums = new WeakMap<CharacterPlan, SeamSum>();

/**
 * The seams of all characters, counted. Those of a long piece are measured bit by bit, so that nothing waits for them; until
 * then the count of before stands.
 */
export function useSeamSum(plan: Plan): SeamSum {
  const [sum, setSum] = useState<SeamSum>({ count: 0, open: 0 });
  useEffect(() => {
    const counting = countSeams(plan);
    let timer: ReturnType<typeof setTimeout>;
    const goOn = (): void => {
      const began = performance.now();
      for (let step = counting.next(); ; step = counting.next()) {
        if (step.done) return setSum((current) => (sameSum(current, step.value) ? current : step.value));
        if (performance.now() - began > SLICE) break;
      }
      timer = setTimeout(goOn, SLICE);
    };
    timer = setTimeout(goOn, SETTLE);
    return () => clearTimeout(timer);
  }, [plan]);
  return sum;
}

const sameSum = (a: SeamSum, b: SeamSum): boolean => a.count === b.count && a.open === b.open;

/** Counts the seams of a plan, a step for each that has to be measured. */
export function* countSeams(plan: Plan): Generator<void, SeamSum> {
  let [count, open] = [0, 0];
  for (const character of plan.characters) {
    let sum = sums.get(character);
    if (!sum) {
      let bad = 0;
      for (let i = 0; i + 1 < character.segments.length; i++) {
        if (seamOf(character, i, plan.rate).grade !== 'good') bad++;
        yield;
      }
      sum = { count: Math.max(0, character.segments.length - 1), open: bad };
      sums.set(character, sum);
    }
    count += sum.count;
    open += sum.open;
  }
  return { count, open };
}
