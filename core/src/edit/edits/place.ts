import type { Draft } from 'immer';
import { castDraft } from 'immer';
import Joi from 'joi';
import { InputError } from '../../math/errors';
import { parseRate } from '../../math/rate';
import type { Lane } from '../../scene/lane';
import type { Segment } from '../../scene/segment';
import { alone, endOf, mostOverlap, nearestStart, plainOverlap } from '../../timeline/freeFrames';
import type { Placed } from '../../timeline/lane';
import { defineEdit, rule } from '../defineEdit';
import { lookup, requireUnusedId } from '../lookup';
import type { SceneEditor } from '../sceneEditor';

/** Puts a segment onto a lane. */
export interface Place {
  readonly type: 'place';
  readonly lane: string;
  readonly segment: Segment;
  /** The frame to put it at, as near as there is room, or behind the segment that it falls on; or the end of the lane. */
  readonly at: number | 'end';
  /**
   * At the end, the frames that it shares with the segment before: as the two motions ask for (`auto`, the default; a cut that
   * settles where there is no room), by the plain rule of cue sheets, or so many.
   */
  readonly overlap?: number | 'auto' | 'plain';
  /** At the end, frames that are left free before it. */
  readonly gap?: number;
  /** Whether it is put at its frame whatever is there, as layers may have it. */
  readonly exactly?: boolean;
}

export const place = defineEdit<Place>({
  type: 'place',
  schema: {
    lane: rule.id,
    segment: rule.entity,
    at: Joi.alternatives(Joi.number(), Joi.valid('end')).required(),
    overlap: Joi.alternatives(Joi.number().integer().min(0), Joi.valid('auto', 'plain')),
    gap: Joi.number().integer().min(0),
    exactly: Joi.boolean(),
  },
  apply: (editor, { lane: id, segment: given, at, overlap, gap, exactly }) => {
    const lane = lookup(editor.scene.lanes, id, 'lane');
    const segment: Draft<Segment> = castDraft({ ...given });
    requireUnusedId(editor.scene.segments, segment.id, 'segment');
    if (at === 'end') placeLast(editor, lane, segment, overlap, gap);
    else if (exactly) editor.insert(lane, Object.assign(segment, { start: at }));
    else placeAt(editor, lane, segment, at);
  },
  describe: ({ segment }) => `addition of ${segment.name}`,
});

function placeAt(editor: SceneEditor, lane: Draft<Lane>, segment: Draft<Segment>, at: number): void {
  const placed = editor.layOut(lane);
  const frames = editor.framesOf(segment);
  const covered = placed.findIndex((p) => at >= p.start && at < p.end);
  if (covered >= 0) editor.insertAfter(lane, placed, covered, segment, frames);
  else {
    segment.start = nearestStart(placed, frames, Math.max(0, Math.round(at)));
    editor.insert(lane, segment);
  }
}

function placeLast(
  editor: SceneEditor,
  lane: Draft<Lane>,
  segment: Draft<Segment>,
  overlap: Place['overlap'] = 'auto',
  gap = 0,
): void {
  const before = editor.last(lane);
  if (!before) segment.start = gap;
  else if (gap > 0) segment.start = before.end + gap;
  else segment.start = before.end - lastOverlap(editor, lane, before, segment, overlap);
  editor.insert(lane, segment);
}

function lastOverlap(
  editor: SceneEditor,
  lane: Draft<Lane>,
  before: Placed,
  segment: Draft<Segment>,
  asked: number | 'auto' | 'plain',
): number {
  if (asked === 'auto') return editor.join(lane, before, segment);
  if (asked === 0) return 0;
  const frames = editor.framesOf(segment);
  if (asked === 'plain') return plainOverlap(parseRate(editor.scene.rate), endOf(before), frames);
  const most = mostOverlap(endOf(before), alone(frames), 0);
  if (asked <= most) return asked;
  throw new InputError('overlap', `An overlap of ${asked} is not possible here.`, {
    place: { path: 'overlap' },
    hint:
      most >= 1
        ? `Choose 1 to ${most}.`
        : 'The cue before is overlapped over its whole length: make this a cut.',
  });
}
