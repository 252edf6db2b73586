import type { SegmentPlan } from '@warper/core';
import { speedFact, spansFact } from './laneFacts';
import type { Pen } from './pen';
import { cycleFrames } from './stepSpans';
import { REMARK, textWidth } from './text';

const STEP_HEIGHT = 4;
/** Width in pixels from which a segment shows its steps and speed. */
const DETAILED = 18;

/** How a segment is drawn, beyond what it is. */
export interface SegmentLook {
  readonly top: number;
  readonly height: number;
  readonly hue: number;
  readonly selected: boolean;
  readonly folded: boolean;
  /** How the segment of a layer comes and goes: frames; null for one of a body lane, which shows its steps and speed. */
  readonly fade: { readonly in: number; readonly out: number } | null;
}

/**
 * Draws a segment: its block, hatching where it holds, the speed of its root, notches between its cycles, and the steps of
 * both feet. False where something of it is not known yet.
 */
export function drawSegment(pen: Pen, plan: SegmentPlan, look: SegmentLook): boolean {
  const { ctx, palette } = pen;
  const { top, height, hue } = look;
  const colour = palette.hues[hue]!;
  const x = pen.x(plan.start);
  const width = Math.max(2, pen.x(plan.end) - x);
  ctx.beginPath();
  ctx.roundRect(x, top, width, height, Math.min(4, width / 2));
  ctx.globalAlpha = 0.15;
  ctx.fillStyle = colour;
  ctx.fill();
  ctx.globalAlpha = 1;
  const { holdStart, holdEnd } = plan.time;
  if (holdStart > 0) hatch(pen, plan.start, holdStart, look);
  if (holdEnd > 0) hatch(pen, plan.end - holdEnd, holdEnd, look);
  if (look.fade) drawFade(pen, plan, look, look.fade);
  const whole = look.folded || look.fade !== null || width < DETAILED || drawDetails(pen, plan, look);
  const line = look.selected ? 2 : 1;
  ctx.beginPath();
  ctx.roundRect(
    x + line / 2,
    top + line / 2,
    Math.max(1, width - line),
    height - line,
    Math.min(3.5, width / 2),
  );
  ctx.strokeStyle = look.selected ? palette.ink : colour;
  ctx.lineWidth = line;
  ctx.stroke();
  return whole;
}

/** Lines from nothing up to the full weight, and down again. */
function drawFade(
  { ctx, palette, x }: Pen,
  { start, end }: SegmentPlan,
  { top, height, hue }: SegmentLook,
  fade: { readonly in: number; readonly out: number },
): void {
  ctx.beginPath();
  ctx.moveTo(x(start), top + height - 1);
  ctx.lineTo(x(start + fade.in), top + 1);
  ctx.moveTo(x(end - fade.out), top + 1);
  ctx.lineTo(x(end), top + height - 1);
  ctx.strokeStyle = palette.hues[hue]!;
  ctx.lineWidth = 1;
  ctx.stroke();
}

/** Slanted lines over frames in which a pose is held. */
export function hatch(
  pen: Pen,
  from: number,
  frames: number,
  { top, height, hue }: { readonly top: number; readonly height: number; readonly hue: number },
): void {
  const { ctx, palette } = pen;
  const [left, right] = [Math.max(0, pen.x(from)), Math.min(pen.width, pen.x(from + frames))];
  if (right <= left) return;
  ctx.save();
  ctx.beginPath();
  ctx.rect(left, top, right - left, height);
  ctx.clip();
  ctx.beginPath();
  const slant = height * 0.47;
  for (let x = Math.floor(left / 6.6) * 6.6 - slant; x < right; x += 6.6) {
    ctx.moveTo(x, top);
    ctx.lineTo(x + slant, top + height);
  }
  ctx.globalAlpha = 0.4;
  ctx.strokeStyle = palette.hues[hue]!;
  ctx.lineWidth = 1;
  ctx.stroke();
  ctx.restore();
}

function drawDetails(pen: Pen, plan: SegmentPlan, { top, height, hue }: SegmentLook): boolean {
  const { ctx } = pen;
  const colour = pen.palette.hues[hue]!;
  const speed = speedFact(plan);
  const spans = spansFact(plan);
  ctx.strokeStyle = colour;
  ctx.fillStyle = colour;
  if (speed) {
    const base = top + height - 20;
    const high = Math.min(14, height * 0.3);
    // A point for every other pixel is as much as can be seen.
    const by = Math.max(1, Math.floor(2 / (speed.step * pen.ppf)));
    const first = Math.max(0, Math.floor((pen.frame(0) - plan.start) / speed.step) - by);
    const last = Math.min(
      speed.shares.length - 1,
      Math.ceil((pen.frame(pen.width) - plan.start) / speed.step) + by,
    );
    ctx.beginPath();
    for (let i = first; i <= last; i += by)
      ctx.lineTo(pen.x(plan.start + i * speed.step), base - speed.shares[i]! * high);
    ctx.globalAlpha = 0.75;
    ctx.lineWidth = 1;
    ctx.stroke();
    ctx.globalAlpha = 1;
  }
  for (const f of cycleFrames(plan)) ctx.fillRect(pen.x(plan.start + f) - 1.5, top, 3, 7);
  for (const { from, to, foot } of spans ?? []) {
    const left = pen.x(plan.start + from + 0.4);
    if (left > pen.width) break;
    const y = top + height - (foot === 'left' ? 15 : 9);
    ctx.fillRect(left, y, Math.max(0.6, pen.x(plan.start + to - 0.4) - left), STEP_HEIGHT);
  }
  return speed !== undefined && spans !== undefined;
}

/** What a segment is called on its lane. */
export function segmentLabel(plan: SegmentPlan): string {
  const { repeat } = plan.settings;
  const times = plan.loop && repeat !== 1 ? ` ×${Number(repeat.toFixed(2))}` : '';
  return `${plan.name}${times}`;
}

/** Marks a name as that of a mapped clip: dotted below, and told where there is room. */
export function markMapped(pen: Pen, x: number, y: number, width: number, room: number): void {
  const { ctx, palette } = pen;
  ctx.save();
  ctx.setLineDash([1, 2]);
  ctx.strokeStyle = palette.ink;
  ctx.lineWidth = 1;
  ctx.beginPath();
  ctx.moveTo(x, y + 3.5);
  ctx.lineTo(x + width, y + 3.5);
  ctx.stroke();
  ctx.restore();
  if (room < width + 10 + textWidth(ctx, REMARK, 'mapped')) return;
  ctx.font = REMARK;
  ctx.fillStyle = palette.soft;
  ctx.fillText('mapped', x + width + 6, y);
}
