import type { LayerLane, LayerSpan, SegmentPlan } from '@warper/core';
import { defined } from '@warper/core';
import { LAYER_HEIGHT } from './geometry';

/** How a segment of a layer comes and goes by itself: a side that crossfades with its neighbour does not. */
export function fadeOf(segments: readonly SegmentPlan[], index: number): { in: number; out: number } {
  const segment = defined(segments[index]);
  const next = segments[index + 1];
  const { fade } = segment.settings;
  return {
    in: segment.overlap > 0 ? 0 : fade.in,
    out: next && next.start < segment.end ? 0 : fade.out,
  };
}

/** Fades with one of them made longer or shorter: never less than none, and both within the segment. */
export function withFade(
  fade: Readonly<Record<'in' | 'out', number>>,
  side: 'in' | 'out',
  frames: number,
  length: number,
): { in: number; out: number } {
  const other = fade[side === 'in' ? 'out' : 'in'];
  return { ...fade, [side]: Math.round(Math.min(Math.max(0, frames), Math.max(0, length - other))) };
}

/** Where the weight of a layer is drawn on its row: full at the top, none at the bottom; pixels from the top of the row. */
export const WEIGHT = { top: 6, bottom: LAYER_HEIGHT - 8 } as const;
/** Where the handles of fades stand. */
export const LAYER_TOP = 6;
/** Where the handle of a seam stands. */
export const SEAM_TOP = LAYER_HEIGHT - 8;
/** Where its keys stand. */
export const KEY_TOP = LAYER_HEIGHT / 2;

/** A span with one of its ends moved; never without a frame. */
export function movedSpan(span: LayerSpan, edge: 'start' | 'end', by: number): LayerSpan {
  const { start, end } = span;
  if (edge === 'start') return { ...span, start: end === null ? start + by : Math.min(start + by, end - 1) };
  return end === null ? span : { ...span, end: Math.max(end + by, start + 1) };
}

/** The weight at a place of the row, pixels from its top. */
const weightAt = (y: number): number =>
  Math.min(1, Math.max(0, (WEIGHT.bottom - y) / (WEIGHT.bottom - WEIGHT.top)));

/** Where a weight is drawn. */
export const weightTop = (weight: number): number => WEIGHT.bottom - weight * (WEIGHT.bottom - WEIGHT.top);

/** The points of a weight with one of them moved, frames and pixels; none passes its neighbours. */
export function movedPoint(
  points: LayerLane['weight'],
  index: number,
  frames: number,
  down: number,
): LayerLane['weight'] {
  return points.map((point, i) => {
    if (i !== index) return point;
    const [frame, weight] = point;
    const least = (points[i - 1]?.[0] ?? -Infinity) + 1;
    const most = (points[i + 1]?.[0] ?? Infinity) - 1;
    const moved = down === 0 ? weight : Math.round(weightAt(weightTop(weight) + down) * 100) / 100;
    return [Math.min(Math.max(frame + frames, least), most), moved] as const;
  });
}
