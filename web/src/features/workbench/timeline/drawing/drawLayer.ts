import type { LayerPlan } from '@warper/core';
import { layerWeight, worksAlone } from '@warper/core/kernels';
import { WEIGHT, weightTop } from '../layerShape';
import type { Pen } from './pen';

/** Pixels from one point of a weight to the next. */
const STEP = 3;

/** Draws what a layer does by itself: its span as a band, and its weight as a line over it. */
export function drawLayer(pen: Pen, layer: LayerPlan, hue: number): void {
  const { ctx, palette } = pen;
  const colour = palette.hues[hue]!;
  if (!worksAlone(layer) && layer.weightFrames.length === 0 && !layer.span) return;
  const from = Math.max(0, layer.span ? pen.x(layer.span.start) : 0);
  const end = layer.span?.end ?? null;
  const to = Math.min(pen.width, end === null ? pen.width : pen.x(end));
  if (to <= from) return;
  ctx.beginPath();
  ctx.moveTo(from, WEIGHT.bottom);
  for (let x = from; x < to + STEP; x += STEP) {
    const at = Math.min(x, to - 0.01);
    ctx.lineTo(at, weightTop(layerWeight(layer, pen.frame(at))));
  }
  ctx.lineTo(to, WEIGHT.bottom);
  ctx.globalAlpha = 0.12;
  ctx.fillStyle = colour;
  ctx.fill();
  ctx.globalAlpha = 1;
  ctx.strokeStyle = colour;
  ctx.lineWidth = 1;
  ctx.stroke();
  drawContacts(pen, layer, colour);
}

/** A stroke below for as long as a hand is held. */
function drawContacts({ ctx, x }: Pen, { contacts }: LayerPlan, colour: string): void {
  ctx.fillStyle = colour;
  for (const { start, end } of contacts) ctx.fillRect(x(start), WEIGHT.bottom + 2, x(end) - x(start), 3);
}
