import { defined } from '../../math/defined';
import type { Draft } from 'immer';
import { castDraft } from 'immer';
import Joi from 'joi';
import { framesPerSecond, parseRate } from '../../math/rate';
import { rate as rateRule } from '../../scene/rules';
import type { Scene } from '../../scene/scene';
import type { Segment } from '../../scene/segment';
import { scaleSegment } from '../../scene/segment';
import { halfOf } from '../../timeline/freeFrames';
import { defineEdit, rule, segmentsName } from '../defineEdit';
import { lookup, requireUnusedId } from '../lookup';
import type { SceneEditor } from '../sceneEditor';

/**
 * Puts segments onto a lane at a frame, or behind the segment that it falls on, and pushes the rest on. They come in order
 * of their starts, as far apart as they were. They meet nobody: that was of its moment.
 */
export interface Paste {
  readonly type: 'paste';
  readonly lane: string;
  readonly segments: readonly Segment[];
  readonly at: number;
  /** Of the scene that they come from; at another rate they keep their seconds. */
  readonly rate: Scene['rate'];
}

export const paste = defineEdit<Paste>({
  type: 'paste',
  schema: {
    lane: rule.id,
    segments: Joi.array().items(Joi.object()).min(1).required(),
    at: rule.number,
    rate: rateRule.required(),
  },
  apply: pasteAll,
  describe: ({ segments }) => `paste of ${segmentsName(segments.map((s) => s.name))}`,
});

function pasteAll(editor: SceneEditor, { lane: laneId, segments, at, rate }: Paste): void {
  const lane = lookup(editor.scene.lanes, laneId, 'lane');
  for (const { id } of segments) requireUnusedId(editor.scene.segments, id, 'segment');
  const placed = editor.layOut(lane);
  const factor = framesPerSecond(parseRate(editor.scene.rate)) / framesPerSecond(parseRate(rate));
  const before = placed.findLast((p) => p.start <= at);
  const behind = before && before.end > at ? before : undefined;
  const after = placed.find((p) => p.start > (behind?.start ?? at));
  let end = 0;
  let last: Draft<Segment> | null = null;
  const block: Draft<Segment>[] = [];
  for (const copied of segments) {
    const segment = castDraft({ ...scaleSegment(copied, factor), meet: null }) as Draft<Segment>;
    const frames = editor.framesOf(segment);
    if (!last) {
      const joined = behind ? editor.join(lane, behind, segment) : 0;
      segment.start = behind ? behind.end - joined : Math.max(0, Math.round(at));
    } else {
      const first = defined(block[0]);
      const wanted = Math.round(first.start + (copied.start - defined(segments[0]).start) * factor);
      segment.start = Math.max(wanted, last.start + 1, end - frames + 1);
    }
    end = segment.start + frames;
    last = segment;
    block.push(segment);
  }
  if (after && last) {
    const overlap = Math.min(after.overlap, halfOf(end - last.start));
    editor.shift(lane, after, Math.max(0, end - overlap - after.start));
  }
  for (const segment of block) editor.insert(lane, segment);
  editor.heal(lane);
}
