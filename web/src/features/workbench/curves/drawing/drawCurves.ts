import type { Pen } from '../../timeline/drawing/pen';
import type { ChosenOnTracks, Track } from '../curveSource';
import type { Envelope } from './envelope';
import { rangeOf } from './envelope';
import type { Scale } from '../scale';
import { valueTicks, yOf } from '../scale';

/** Pixels from one point of a curve to the next. */
const STEP = 2;
/** Keys nearer to each other than this, in pixels on average, are drawn as the line alone. */
const KEY_ROOM = 5;
const DASHES: readonly (readonly number[])[] = [[], [7, 3], [2, 3]];

const _range = new Float64Array(2);

/** Lines across at round values. */
export function drawValues({ ctx, palette, width }: Pen, scale: Scale): void {
  ctx.lineWidth = 1;
  for (const value of valueTicks(scale)) {
    const y = Math.round(yOf(scale, value)) + 0.5;
    ctx.strokeStyle = palette.rule;
    ctx.globalAlpha = value === 0 ? 1 : 0.55;
    ctx.beginPath();
    ctx.moveTo(0, y);
    ctx.lineTo(width, y);
    ctx.stroke();
    ctx.globalAlpha = 1;
  }
}

/** A curve as far as it is in sight: its shape, or the stretch between its least and greatest where keys are many in a pixel. */
export function drawCurve(pen: Pen, track: Track, envelope: Envelope, scale: Scale, wide: boolean): void {
  const { ctx, palette, width } = pen;
  const { frames, valueAt } = track.curve;
  ctx.strokeStyle = palette.hues[track.hue] ?? palette.ink;
  ctx.lineWidth = wide ? 2 : 1;
  ctx.setLineDash(DASHES[track.dash] as number[]);
  ctx.beginPath();
  const dense = keysBetween(frames, pen.frame(0), pen.frame(width)) > width / STEP;
  if (dense) traceEnvelope(pen, frames, envelope, scale);
  else
    for (let x = 0; x <= width + STEP; x += STEP) {
      const y = yOf(scale, valueAt(pen.frame(x)));
      if (x === 0) ctx.moveTo(x, y);
      else ctx.lineTo(x, y);
    }
  ctx.stroke();
  ctx.setLineDash([]);
}

const keysBetween = (frames: Float64Array, from: number, to: number): number =>
  firstAt(frames, to) - firstAt(frames, from);

/** Index of the first key at or after a frame. */
export function firstAt(frames: Float64Array, frame: number): number {
  let [low, high] = [0, frames.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (frames[middle]! < frame) low = middle + 1;
    else high = middle;
  }
  return low;
}

function traceEnvelope(pen: Pen, frames: Float64Array, envelope: Envelope, scale: Scale): void {
  const { ctx, width } = pen;
  let from = firstAt(frames, pen.frame(0));
  let begun = false;
  for (let x = STEP; x <= width + STEP && from < frames.length; x += STEP) {
    const to = firstAt(frames, pen.frame(x));
    if (to === from) continue;
    rangeOf(envelope, from, to, _range);
    const [low, high] = [yOf(scale, _range[0]!), yOf(scale, _range[1]!)];
    if (begun) ctx.lineTo(x, low);
    else ctx.moveTo(x, low);
    ctx.lineTo(x, high);
    begun = true;
    from = to;
  }
}

/** The keys of a curve: open pins, filled where they are in hand. */
export function drawKeys(
  pen: Pen,
  track: Track,
  scale: Scale,
  chosen: ReadonlySet<number> | undefined,
): void {
  const { ctx, palette, width } = pen;
  const { frames, values } = track.curve;
  const [from, to] = [firstAt(frames, pen.frame(-6)), firstAt(frames, pen.frame(width + 6))];
  const all = (to - from) * KEY_ROOM <= width;
  for (let i = from; i < to; i++) {
    const isChosen = chosen?.has(frames[i]!) ?? false;
    if (!all && !isChosen) continue;
    const [x, y] = [pen.x(frames[i]!), yOf(scale, values[i]!)];
    ctx.beginPath();
    ctx.arc(x, y, isChosen ? 4.5 : 3.5, 0, 2 * Math.PI);
    ctx.fillStyle = isChosen ? palette.signal : palette.raised;
    ctx.fill();
    ctx.strokeStyle = isChosen ? palette.signal : (palette.hues[track.hue] ?? palette.ink);
    ctx.lineWidth = 1.5;
    ctx.stroke();
  }
}

/** A handle of a key in hand: where it stands, pixels of the content. */
export interface HandlePoint {
  readonly track: string;
  readonly frame: number;
  readonly side: 'into' | 'out';
  readonly x: number;
  readonly y: number;
  readonly fromX: number;
  readonly fromY: number;
}

export function drawHandles(pen: Pen, handles: readonly HandlePoint[], left: number): void {
  const { ctx, palette } = pen;
  ctx.strokeStyle = palette.ink;
  ctx.fillStyle = palette.raised;
  ctx.lineWidth = 1;
  for (const { x, y, fromX, fromY } of handles) {
    ctx.beginPath();
    ctx.moveTo(fromX - left, fromY);
    ctx.lineTo(x - left, y);
    ctx.stroke();
    ctx.beginPath();
    ctx.rect(x - left - 3, y - 3, 6, 6);
    ctx.fill();
    ctx.stroke();
  }
}

/** Whether any key of a track is in hand. */
export const isInHand = (chosen: ChosenOnTracks, id: string): boolean => (chosen.get(id)?.size ?? 0) > 0;
