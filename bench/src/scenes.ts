import type { Clip, Scene, Segment } from '@warper/core';
import { PLAIN_CHARACTER, PLAIN_LANE, PLAIN_SEGMENT, emptyScene } from '@warper/core';

/** A segment that plays a whole clip. */
export const segmentOf = (clip: Clip, id: string, start: number, values: Partial<Segment> = {}): Segment => ({
  ...PLAIN_SEGMENT,
  id,
  name: id,
  clip: clip.id,
  start,
  out: clip.frames,
  ...values,
});

/** A scene of one character with the segments on its body lane. */
export const sceneOf = (segments: readonly Segment[]): Scene => ({
  ...emptyScene('bench'),
  characters: { c: { ...PLAIN_CHARACTER, id: 'c', name: 'c', body: 'rig' } },
  characterOrder: ['c'],
  lanes: { l: { ...PLAIN_LANE, id: 'l', kind: 'body', character: 'c', segments: segments.map((s) => s.id) } },
  laneOrder: ['l'],
  segments: Object.fromEntries(segments.map((s) => [s.id, s])),
});
