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
export const TAG_WIDTH = { value: 52, grade: 18, stroke: 5 } as const;
export type TagKind = keyof typeof TAG_WIDTH;

/** What the tag of a seam has room for between its segments. */
export function tagKind(before: SegmentPlan, own: SegmentPlan, pixelsPerFrame: number): TagKind {
  const apart = Math.min(before.end - before.start, own.end - own.start) * pixelsPerFrame;
  return apart >= TAG_WIDTH.value ? 'value' : apart >= TAG_WIDTH.grade ? 'grade' : 'stroke';
}

/** Frames that a seam covers. */
export function seamFrames(own: SegmentPlan): number {
  return own.overlap || Math.min(own.settle?.frames ?? 0, own.end - own.start);
}

/** The middle of a seam's tag, frames. */
export const tagFrame = (own: SegmentPlan): number => own.start + own.overlap / 2;
