import { defined } from '../../math/defined';
import type { Draft } from 'immer';
import { InputError } from '../../math/errors';
import type { Lane } from '../../scene/lane';
import { id as idRule } from '../../scene/rules';
import type { Segment } from '../../scene/segment';
import { defineEdit, rule, segmentName } from '../defineEdit';
import { lookup } from '../lookup';
import { putBehind } from '../putBehind';
import type { SceneEditor } from '../sceneEditor';
import { removeSegment } from './remove';
import { snapshot } from '../snapshot';

/** Takes a segment out, closes up behind it, and puts it before another one of a lane, or at its end. */
export interface Reorder {
  readonly type: 'reorder';
  readonly segment: string;
  readonly lane: string;
  /** The segment that it comes before; null puts it at the end. */
  readonly before: string | null;
}

export const reorder = defineEdit<Reorder>({
  type: 'reorder',
  schema: { segment: rule.id, lane: rule.id, before: idRule.allow(null).required() },
  apply: (editor, { segment: id, lane: laneId, before }) => {
    if (before === id) return;
    const from = editor.laneOf(id);
    if (from.id === laneId && isThere(from.segments, id, before)) return;
    const lane = lookup(editor.scene.lanes, laneId, 'lane');
    if (before !== null && !lane.segments.includes(before))
      throw new InputError('edit', `Segment ${before} is not on lane ${laneId}.`);
    const segment = { ...snapshot(defined(editor.scene.segments[id])) } as Draft<Segment>;
    if (segment.off) from.segments = from.segments.filter((s) => s !== id);
    else removeSegment(editor, id, true);
    const at = before === null ? lane.segments.length : lane.segments.indexOf(before);
    if (segment.off) putOff(editor, lane, segment, at);
    else {
      const placed = editor.layOut(lane);
      const i = placed.findLastIndex((p) => lane.segments.indexOf(p.segment.id) < at);
      putBehind(editor, lane, placed, i, segment);
    }
  },
  describe: ({ segment }, scene) => `order of ${segmentName(scene, segment)}`,
});

/** Whether a segment stands right before another one, or at the end where that is null. */
const isThere = (order: readonly string[], id: string, before: string | null): boolean => {
  const next = order[order.indexOf(id) + 1];
  return next === (before ?? undefined);
};

/** Puts a segment that is switched off at a place of the order. */
function putOff({ scene }: SceneEditor, lane: Draft<Lane>, segment: Draft<Segment>, at: number): void {
  const next = lane.segments[at];
  segment.start = next ? defined(scene.segments[next]).start : segment.start;
  scene.segments[segment.id] = segment;
  lane.segments.splice(at, 0, segment.id);
  const start = (s: string): number => defined(scene.segments[s]).start;
  lane.segments = lane.segments
    .map((s, i) => ({ s, i }))
    .sort((a, b) => start(a.s) - start(b.s) || a.i - b.i)
    .map(({ s }) => s);
}
