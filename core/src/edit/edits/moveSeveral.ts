import { defined } from '../../math/defined';
import type { SceneEditor } from '../sceneEditor';
import { canStand } from '../../timeline/freeFrames';
import type { Placed } from '../../timeline/lane';
import { defineEdit, rule, segmentsName } from '../defineEdit';
import { lookup } from '../lookup';

/**
 * Moves segments, of one lane or of several, by so many frames as one; as near to that as all of them can stand. Where all
 * of them are of one lane they can be moved to another.
 */
export interface MoveSeveral {
  readonly type: 'move several';
  readonly segments: readonly string[];
  readonly frames: number;
  /** Where all of them are of one lane, the lane that they go to. */
  readonly lane?: string;
}

export const moveSeveral = defineEdit<MoveSeveral>({
  type: 'move several',
  schema: { segments: rule.ids, frames: rule.number, lane: rule.id.optional() },
  apply: (editor, { segments, frames, lane }) => moveAll(editor, segments, frames, lane),
  describe: ({ segments }, scene) =>
    `move of ${segmentsName(segments.map((s) => scene.segments[s]?.name ?? 'a segment'))}`,
});

/** A stretch of frames on a lane. */
interface Stretch {
  readonly id: string;
  readonly start: number;
  readonly end: number;
}

const stretch = ({ segment, start, end }: Placed): Stretch => ({ id: segment.id, start, end });

const byStart = (a: Stretch, b: Stretch): number => a.start - b.start;

function moveAll(editor: SceneEditor, ids: readonly string[], frames: number, to?: string): void {
  const { scene } = editor;
  const moving = new Set(ids);
  const lanes = [...new Set(ids.map((id) => editor.laneOf(id)))];
  const rows = lanes.map((lane) => {
    const target = to !== undefined && lanes.length === 1 ? lookup(scene.lanes, to, 'lane') : lane;
    const moved = editor.layOut(lane).filter((p) => moving.has(p.segment.id));
    const still = editor.layOut(target).filter((p) => !moving.has(p.segment.id));
    return { lane, target, moved: moved.map(stretch), still: still.map(stretch) };
  });
  const fits = (by: number): boolean =>
    rows.every(({ moved, still }) => {
      const there = moved.map((m) => ({ ...m, start: m.start + by, end: m.end + by }));
      return canStand([...still, ...there].sort(byStart));
    });
  const wanted = Math.round(frames);
  const by = nearest(wanted, fits, rows.some((r) => r.lane !== r.target) ? 100_000 : Math.abs(wanted));
  if (by === null) return;
  for (const { lane, target, moved } of rows) {
    const ids = new Set(moved.map((m) => m.id));
    for (const { id, start } of moved) defined(scene.segments[id]).start = start + by;
    if (lane !== target) lane.segments = lane.segments.filter((id) => !ids.has(id));
    const rest = target.segments.filter((id) => !ids.has(id));
    target.segments = [...rest, ...moved.map((m) => m.id)];
    target.segments.sort((a, b) => defined(scene.segments[a]).start - defined(scene.segments[b]).start);
  }
}

/** The number nearest to the wanted one for which something holds, null where there is none so near. */
function nearest(wanted: number, holds: (n: number) => boolean, within: number): number | null {
  const sign = Math.sign(wanted || 1);
  for (let d = 0; d <= within; d++) {
    // Towards where it stood first: that way there is room.
    if (holds(wanted - sign * d)) return wanted - sign * d;
    if (holds(wanted + sign * d)) return wanted + sign * d;
  }
  return null;
}
