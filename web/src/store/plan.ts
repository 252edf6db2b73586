import type { CharacterPlan, Plan, Scene, SeamMeasures } from '@warper/core';
import { InputError, compile, framesPerSecond, parseRate, seamMeasures } from '@warper/core';
import { library } from '../motion/pageLibrary';

/** A compiled scene, or why it could not be compiled. */
export interface Compiled {
  readonly plan: Plan;
  readonly error: InputError | null;
}

let last: { scene: Scene; compiled: Compiled } | null = null;

/** Lets go of what was compiled: clips or bodies have changed under the same ids. */
export function forgetPlans(): void {
  last = null;
}

/** Compiles a scene, taking over what did not change; a scene that cannot be compiled keeps the plan before. */
export function compileScene(scene: Scene): Compiled {
  if (last?.scene === scene) return last.compiled;
  const previous = last?.compiled.plan;
  let compiled: Compiled;
  try {
    compiled = { plan: compile(scene, library, previous), error: null };
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    const empty: Plan = { rate: parseRate(scene.rate), characters: [], start: 0, end: 0 };
    compiled = { plan: previous ?? empty, error };
  }
  last = { scene, compiled };
  return compiled;
}

/** Measures of one seam of a compiled character; made again only where an edit has touched it. */
export const seamOf = (plan: CharacterPlan, index: number, rate: Plan['rate']): SeamMeasures =>
  seamMeasures(plan, index, framesPerSecond(rate));
