import type { Edit, Join, Rate, Seam, Segment } from '@warper/core';
import { settleFrames } from '@warper/core';

/**
 * The one edit that makes the seam before a segment of another kind: what is no crossfade shares no frames, and a crossfade that
 * shares none yet gets as many as the two motions ask for.
 *
 * @param overlap how many frames it shares with the segment before now
 */
export function joinEdit({ id, name }: Pick<Segment, 'id' | 'name'>, join: Join, overlap: number): Edit {
  const frames = join.kind === 'crossfade' ? overlap || 'auto' : 0;
  return {
    type: 'several',
    label: `seam before ${name}`,
    edits: [
      ...(frames === overlap ? [] : [{ type: 'overlap', segment: id, frames } as const]),
      { type: 'seam', segment: id, values: {}, join },
    ],
  };
}

/** A seam that settles: as it does already, or in the usual time. */
export const settling = (seam: Seam, rate: Rate): Join =>
  seam.kind === 'settle' ? seam : { kind: 'settle', frames: settleFrames(rate) };
