import type { CharacterPlan, Compiler, Plan, Scene, SeamMeasures } from '@warper/core';
import { InputError, Memory, framesPerSecond, parseRate, seamMeasures } from '@warper/core';
import { compiler } from '../data/pageLibrary';

/** A compiled scene, or why it could not be compiled. */
export interface Compiled {
  readonly plan: Plan;
  readonly error: InputError | null;
}

/** Compiles a scene with the page's library; one that cannot be compiled has an empty plan. */
export function compileScene(scene: Scene, by: Compiler = compiler): Compiled {
  try {
    return { plan: by.compile(scene), error: null };
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    return { plan: emptyPlan(scene), error };
  }
}

const emptyPlan = ({ rate, aspect }: Scene): Plan => ({
  rate: parseRate(rate),
  characters: [],
  start: 0,
  end: 0,
  filming: { cameras: [], shots: [], aspect, memory: new Memory() },
});

/** Measures of one seam of a compiled character; made again only where an edit has touched it. */
export const seamOf = (plan: CharacterPlan, index: number, rate: Plan['rate']): SeamMeasures =>
  seamMeasures(plan, index, framesPerSecond(rate));
