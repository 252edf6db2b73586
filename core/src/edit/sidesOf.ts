import type { Placed } from '../timeline/lane';
import { startOf } from '../timeline/freeFrames';
import type { SceneEditor } from './sceneEditor';

/** Both sides of a seam. */
interface Sides {
  readonly before: Placed;
  readonly item: Placed;
  /** Frames that the incoming segment shares with the one behind it. */
  readonly tail: number;
}

/** Both sides of the seam before a segment; null before the first of its lane. */
export function sidesOf(editor: SceneEditor, id: string): Sides | null {
  const { placed, i, item } = editor.find(id);
  const before = placed[i - 1];
  return before ? { before, item, tail: startOf(placed, i).covered } : null;
}
