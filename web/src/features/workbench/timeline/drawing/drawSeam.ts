import type { SeamMeasures, SegmentPlan } from '@warper/core';
import { defined } from '@warper/core';
import { gradeShape, worstMeasure } from '../../../../ui/grade';
import { SEGMENT_HEIGHT, TAG_ROOM } from '../geometry';
import type { TagKind } from '../laneShape';
import { TAG_WIDTH, seamFrames, tagFrame } from '../laneShape';
import type { Pen } from './pen';
import { SMALL, textWidth } from './text';

type MadeStep = NonNullable<SegmentPlan['madeStep']>;

/** Pixels from one stitch to the next. */
const STITCH = 7;

/** Draws the join of two segments: stitches over a crossfade, fading ones where it settles, a bar at a cut. */
export function drawStitches(
  pen: Pen,
  segment: SegmentPlan,
  { top, height } = { top: TAG_ROOM, height: SEGMENT_HEIGHT },
): void {
  const { ctx, palette, x, width } = pen;
  const left = x(segment.start);
  const frames = seamFrames(segment);
  if (frames === 0) {
    ctx.fillStyle = palette.ink;
    ctx.fillRect(left - 1, top, 2.25, height);
    return;
  }
  const right = Math.max(left + STITCH + 1, x(segment.start + frames));
  if (segment.madeStep) return drawFootfalls(pen, segment);
  const settles = segment.overlap === 0;
  ctx.strokeStyle = palette.ink;
  ctx.lineWidth = 1.5;
  ctx.lineCap = 'round';
  const first = Math.max(0, Math.floor((-left - STITCH) / STITCH));
  if (!settles) ctx.beginPath();
  for (let at = left + first * STITCH; at + 6 <= right && at < width; at += STITCH) {
    if (settles) {
      ctx.beginPath();
      ctx.globalAlpha = 1 - (at - left) / (right - left);
    }
    ctx.moveTo(at + 1, top + height - 3);
    ctx.lineTo(at + 6, top + 3);
    if (settles) ctx.stroke();
  }
  if (!settles) ctx.stroke();
  ctx.globalAlpha = 1;
  ctx.lineCap = 'butt';
}

/** Footprints of a made step: the left foot above the right, from where it leaves to where it lands. */
function drawFootfalls({ ctx, palette, x }: Pen, { madeStep, start, overlap }: SegmentPlan): void {
  if (!madeStep) return;
  const [left, right] = [x(start), x(start + overlap)];
  ctx.strokeStyle = palette.ink;
  ctx.fillStyle = palette.ink;
  ctx.lineWidth = 1;
  ctx.setLineDash([2, 3]);
  ctx.beginPath();
  for (const at of [left + 0.5, right - 0.5]) {
    ctx.moveTo(at, TAG_ROOM + 3);
    ctx.lineTo(at, TAG_ROOM + SEGMENT_HEIGHT - 3);
  }
  ctx.stroke();
  ctx.setLineDash([]);
  ctx.lineWidth = 1.5;
  madeStep.feet.forEach(({ leaves, lands, swings }, i) => {
    const y = footRow(madeStep, i);
    const [from, to] = swings ? [x(start + leaves), x(start + lands)] : [left, left];
    // Standing, then in the air, then standing again.
    ctx.fillRect(left, y - 1.5, from - left, 3);
    ctx.fillRect(to, y - 1.5, right - to, 3);
    if (!swings) return;
    ctx.beginPath();
    ctx.moveTo(from, y);
    ctx.quadraticCurveTo((from + to) / 2, y - 2 * STEP_ARCH, to, y);
    ctx.stroke();
  });
}

/** Where the row of a foot is drawn, pixels from the top of its lane. */
export function footRow({ legs }: Pick<MadeStep, 'legs'>, foot: number): number {
  const { side, front } = defined(legs[foot]);
  return TAG_ROOM + SEGMENT_HEIGHT * (FOOT_ROWS[side] + (front || legs.length <= 2 ? 0 : FOOT_ROWS.hind));
}

/** Heights of the feet's rows, as shares of a segment's, and how high a step is drawn, pixels. */
const FOOT_ROWS = { left: 0.42, right: 0.78, hind: 0.1 };
const STEP_ARCH = 7;

/** Draws the tag of a seam: its worst measure, its grade alone, or a stroke in the grade's colour. */
export function drawTag(
  { ctx, palette, x }: Pen,
  segment: SegmentPlan,
  measures: SeamMeasures,
  kind: TagKind,
  selected: boolean,
): void {
  const colour = palette.grades[measures.grade];
  const middle = x(tagFrame(segment));
  if (kind === 'stroke') {
    ctx.fillStyle = colour;
    ctx.fillRect(middle - 1.5, 7, 3, 10);
    return;
  }
  const text =
    kind === 'value' ? `${gradeShape(measures.grade)} ${worstMeasure(measures)}` : gradeShape(measures.grade);
  const wide =
    kind === 'value' ? Math.min(TAG_WIDTH.value, textWidth(ctx, SMALL, text) + 14) : TAG_WIDTH.grade - 1;
  ctx.beginPath();
  ctx.roundRect(middle - wide / 2, 4.5, wide, 17, 8.5);
  ctx.fillStyle = palette.raised;
  ctx.fill();
  ctx.strokeStyle = colour;
  ctx.globalAlpha = selected ? 1 : 0.5;
  ctx.lineWidth = selected ? 2 : 1;
  ctx.stroke();
  ctx.globalAlpha = 1;
  ctx.font = SMALL;
  ctx.fillStyle = colour;
  ctx.textAlign = 'center';
  ctx.fillText(text, middle, 17);
  ctx.textAlign = 'start';
}
