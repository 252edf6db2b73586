import { compile } from '../compile/compile';
import type { Library } from '../compile/compile';
import type { SeamMeasures } from '../continuity/measureSeam';
import { measureSeam } from '../continuity/measureSeam';
import { applyEdit } from '../edit/edit';
import type { Join } from '../edit/edits/join';
import { InputError } from '../math/errors';
import { framesPerSecond } from '../math/rate';
import type { SegmentPlan } from '../plan/plan';
import type { Scene } from '../scene/scene';

/** A join that was measured, with what it joins. */
export interface MeasuredJoin {
  readonly sides: readonly [SegmentPlan, SegmentPlan];
  readonly measures: SeamMeasures;
}

/** Measures the join of a scene of two segments. */
export function measurePair(scene: Scene, library: Library): MeasuredJoin {
  const { characters, rate } = compile(scene, library);
  const plan = characters[0]!;
  return {
    sides: [plan.segments[0]!, plan.segments[1]!],
    measures: measureSeam(plan, 0, framesPerSecond(rate)),
  };
}

/** Measures the join of a scene of two segments as an edit would make it; null where it cannot be. */
export function measureJoin(scene: Scene, edit: Join, library: Library): MeasuredJoin | null {
  try {
    return measurePair(applyEdit(scene, edit, library), library);
  } catch (error) {
    if (error instanceof InputError) return null;
    throw error;
  }
}
