import type { Draft } from 'immer';
import Joi from 'joi';
import type { FrameSpan } from '../../scene/marker';
import type { Scene } from '../../scene/scene';
import { defineEdit, rule } from '../defineEdit';

/** Sets the frames that are played; null for the whole piece. */
export interface Range {
  readonly type: 'range';
  readonly range: FrameSpan | null;
}

export const range = defineEdit<Range>({
  type: 'range',
  schema: { range: Joi.object({ from: rule.number, to: rule.number }).allow(null).required() },
  apply: ({ scene }, { range }) => setRange(scene, range),
  describe: () => 'play range',
});

export function setRange(draft: Draft<Scene>, range: FrameSpan | null): void {
  if (!range) {
    draft.range = null;
    return;
  }
  const from = Math.max(0, Math.round(range.from));
  draft.range = { from, to: Math.max(from + 1, Math.round(range.to)) };
}
