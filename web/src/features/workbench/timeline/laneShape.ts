import { defined } from '@warper/core';
import type { SegmentPlan } from '@warper/core';
import { FOLDED_HEIGHT, LAYER_SEGMENT_HEIGHT, SEGMENT_HEIGHT, TAG_ROOM } from './geometry';
import type { Row } from './rows';

/** Where the segments of a row stand, pixels from its top. */
export function laneShape({ folded, lane }: Row): { readonly top: number; readonly height: number } {
  if (folded) return { top: 4, height: FOLDED_HEIGHT - 9 };
  return lane.kind === 'body'
    ? { top: TAG_ROOM, height: SEGMENT_HEIGHT }
    : { top: 5, height: LAYER_SEGMENT_HEIGHT };
}

/** Whether a row shows the seams between its segments. */
export const hasSeams = ({ folded, lane }: Row): boolean => lane.kind === 'body' && !folded;

/** Pixels that a seam's tag takes, with its value, with its grade alone, and as a mere stroke. */
export const TAG_WIDTH = { value: 60, grade: 18, stroke: 5 } as const;
export type TagKind = keyof typeof TAG_WIDTH;

/** The middle of a seam's tag, frames. */
export const tagFrame = (segment: SegmentPlan): number => segment.start + segment.overlap / 2;

/** What the tag of the seam before a segment has room for beside the tags of the seams around it. */
export function tagKind(segments: readonly SegmentPlan[], index: number, pixelsPerFrame: number): TagKind {
  const middle = (i: number): number => (i > 0 && i < segments.length ? tagFrame(defined(segments[i])) : NaN);
  const distances = [index - 1, index + 1].map((i) => Math.abs(middle(i) - middle(index)));
  const apart = Math.min(...distances.map((d) => (Number.isNaN(d) ? Infinity : d))) * pixelsPerFrame;
  return apart >= TAG_WIDTH.value ? 'value' : apart >= TAG_WIDTH.grade ? 'grade' : 'stroke';
}

/** Frames that a seam covers. */
export function seamFrames(segment: SegmentPlan): number {
  return segment.overlap || Math.min(segment.settle?.frames ?? 0, segment.end - segment.start);
}
