import { curveWeight, weightThrough } from '../math/curve';
import type { LayerPlan } from '../plan/plan';

/** The weight with which something comes in at its start and goes out before its end. */
export function fadeWeight(
  start: number,
  end: number,
  fadeIn: number,
  fadeOut: number,
  frame: number,
): number {
  const into = fadeIn > 0 ? curveWeight('smooth', (frame - start + 1) / (fadeIn + 1)) : 1;
  const away = fadeOut > 0 ? curveWeight('smooth', (end - frame) / (fadeOut + 1)) : 1;
  return Math.min(into, away);
}

/** Weight of a layer at a frame: that of its own curve within its span, nothing outside. */
export function layerWeight(layer: LayerPlan, frame: number): number {
  const { span } = layer;
  if (!span) return curveAt(layer, frame);
  const end = span.end ?? Infinity;
  // A fade begins and ends between two frames.
  if (frame < span.start - (span.fadeIn > 0 ? 1 : 0) || frame >= end) return 0;
  return curveAt(layer, frame) * fadeWeight(span.start, end, span.fadeIn, span.fadeOut, frame);
}

/** The layer's own curve. */
const curveAt = ({ weightFrames, weights, smooth }: LayerPlan, frame: number): number =>
  weightThrough(weightFrames, weights, smooth ? 'smooth' : 'linear', frame);
