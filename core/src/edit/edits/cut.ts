import { defined } from '../../math/defined';
import type { Draft } from 'immer';
import { castDraft } from 'immer';
import { InputError } from '../../math/errors';
import { PLAIN_SEAM, withSeam } from '../../scene/seam';
import type { Segment } from '../../scene/segment';
import { leastLength, startOf } from '../../timeline/freeFrames';
import { defineEdit, rule, segmentName } from '../defineEdit';
import { joinGroup } from '../groups';
import { cutLinks } from '../links';
import { requireUnusedId } from '../lookup';
import type { SceneEditor } from '../sceneEditor';
import { clearOfHolds, partsAt } from '../splitSegment';

/** Cuts a segment in two at a frame; what is shown stays the same. A frame within a seam goes to the nearest one outside. */
export interface CutSegment {
  readonly type: 'cut';
  readonly segment: string;
  readonly frame: number;
  /** What the second part is called. */
  readonly id: string;
}

export const cut = defineEdit<CutSegment>({
  type: 'cut',
  schema: { segment: rule.id, frame: rule.number, id: rule.id },
  apply: (editor, { segment, frame, id }) => cutAt(editor, segment, frame, id),
  describe: ({ segment }, scene) => `cut of ${segmentName(scene, segment)}`,
});

/**
 * Cuts a segment in two at a frame.
 *
 * @throws InputError `edit` where there is no room for two parts, or the segment follows a path
 */
export function cutAt(editor: SceneEditor, segmentId: string, frame: number, id: string): void {
  const { lane, placed, i, item } = editor.find(segmentId);
  requireUnusedId(editor.scene.segments, id, 'segment');
  const first = defined(editor.scene.segments[segmentId]);
  const from = leastLength(item.overlap);
  const to = item.timing.frames - leastLength(startOf(placed, i).covered);
  const place = { path: `segments.${segmentId}` };
  if (from > to)
    throw new InputError('edit', `${first.name} is too short to be cut between its seams.`, { place });
  if (first.path.length > 0) {
    throw new InputError('edit', `${first.name} follows a path and cannot be cut.`, {
      place,
      hint: 'Take the path away, or trim a duplicate of it.',
    });
  }
  const at = clearOfHolds(item, Math.min(Math.max(Math.round(frame) - item.start, from), to));
  if (at < from || at > to) {
    throw new InputError('edit', `${first.name} has no room for a cut at its held ends.`, {
      place: { ...place, frame: item.start + at },
    });
  }
  const [a, b] = partsAt(item, at);
  Object.assign(first, a);
  const { seam } = item.segment;
  const second: Draft<Segment> = castDraft({
    ...item.segment,
    ...b,
    id,
    meet: null,
    start: item.start + at,
    // One motion on both sides: its root goes on exactly, whatever is compared around it.
    seam: withSeam(
      PLAIN_SEAM,
      { fit: 'hips', gap: seam.gap },
      seam.kind === 'crossfade' ? { ...seam, inStep: false } : undefined,
    ),
  });
  editor.scene.segments[id] = second;
  lane.segments.splice(lane.segments.indexOf(segmentId) + 1, 0, id);
  joinGroup(editor.scene, segmentId, id);
  cutLinks(editor.scene, segmentId, at, id);
}
