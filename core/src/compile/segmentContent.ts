import type { Memory } from '../memory/memory';
import { derivation } from '../memory/memory';
import type { Segment } from '../scene/scene';

/** All settings of a segment but its name, its clip and its place: what decides how the clip is played. */
export type SegmentContent = Omit<Segment, 'id' | 'name' | 'clip' | 'start' | 'off'>;

const content = derivation('segment content', 20_000, (memory, segment: Segment): SegmentContent => {
  const { id: _id, name: _name, clip: _clip, start: _start, off: _off, ...settings } = segment;
  return memory.intern(settings);
});

/** The settings of a segment, one object for all that are set alike, so that what follows from them is shared. */
export const segmentContent = (segment: Segment, memory: Memory): SegmentContent =>
  memory.recall(content, segment);
