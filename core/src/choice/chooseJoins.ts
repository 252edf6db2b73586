import type { Library } from '../compile/compile';
import { applyEdit } from '../edit/edit';
import type { Edit } from '../edit/edit';
import type { Scene } from '../scene/scene';
import { chooseJoin } from './chooseJoin';

/** Joins that were chosen one after the other. */
export interface ChosenJoins {
  /** What makes them so, in order. */
  readonly edits: readonly Edit[];
  /** The scene with them. */
  readonly scene: Scene;
}

/**
 * Chooses the joins before some segments, each in the scene as the ones before it have made it; yields the finished share. See
 * `chooseJoin`. What has nothing before it any more is passed over.
 */
export function* chooseJoinsSteps(
  scene: Scene,
  segments: readonly string[],
  library: Library,
): Generator<number, ChosenJoins> {
  const edits: Edit[] = [];
  let current = scene;
  for (const [i, id] of segments.entries()) {
    const segment = current.segments[id];
    const choice = segment && chooseJoin(current, id, library, segment.seam.limits ?? current.choice);
    if (choice) {
      edits.push(choice.edit);
      current = applyEdit(current, choice.edit, library);
    }
    yield (i + 1) / segments.length;
  }
  return { edits, scene: current };
}

/** The same in one go. */
export function chooseJoins(scene: Scene, segments: readonly string[], library: Library): ChosenJoins {
  const steps = chooseJoinsSteps(scene, segments, library);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}
