import type { Scene } from '../scene/scene';
import { versionOf } from '../scene/versions';
import { alternated } from './alternateExamples';
import { library, spans, two } from './arranging';
import type { Edit, EditOptions } from '../edit/edit';
import { applyEdit, edit } from '../edit/edit';

/** Two alternates of the scene of two characters. */
export const scene: Scene = { ...two, ...alternated };

/** The scene after some edits. */
export const after = (edits: readonly Edit[], from = scene, options?: EditOptions): Scene =>
  edits.reduce((s, change) => applyEdit(s, change, library, options), from);

/** An alternate as a scene of its own. */
export const version = (of: Scene, id: string): Scene => versionOf(of, of.alternates[id]!);

/** Where the segments of the Keeper are in the scene in hand, and in an alternate. */
export const both = (of: Scene, other = 'slow'): string[] => [spans(of), spans(version(of, other))];

/** The scope of an alternate. */
export const scopeOf = (of: Scene, id: string): [number, number] | null => {
  const scope = of.alternates[id]?.scope;
  return scope ? [scope.from, scope.to] : null;
};

/** A scene after an edit, or as it was where that cannot be. */
export function tried(before: Scene, change: Edit): Scene {
  try {
    return edit(before, change, library).scene;
  } catch {
    return before;
  }
}
