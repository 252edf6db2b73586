import type { Memory } from '../memory/memory';
import { derivation } from '../memory/memory';
import type { Segment } from '../scene/segment';
import type { SegmentSettings } from '../scene/segment';
import { settingsOf, settingsText } from '../scene/segment';

const content = derivation('segment content', 20_000, (memory, segment: Segment): SegmentSettings =>
  memory.intern(settingsText(segment), () => settingsOf(segment)),
);

/** The settings of a segment, one object for all that are set alike, so that what follows from them is shared. */
export const segmentContent = (segment: Segment, memory: Memory): SegmentSettings =>
  memory.recall(content, segment);
