import type { Pen } from './pen';
import { RULER, SMALL, textWidth } from './text';

interface RulerLook {
  /** Frames between two ticks with a label, and between two ticks. */
  readonly label: number;
  readonly fine: number;
  /** What the ruler says at a frame. */
  readonly text: (frame: number) => string;
  /** What it says beside that, quieter. */
  readonly beside: (frame: number) => string;
}

/** Draws the ticks of the ruler, and what stands at them. */
export function drawRuler(
  { ctx, palette, x, frame, width }: Pen,
  { label, fine, text, beside }: RulerLook,
): void {
  const first = Math.max(0, Math.floor(frame(-80) / label) * label);
  const last = frame(width);
  const ticks = (step: number, top: number, colour: string): void => {
    ctx.beginPath();
    for (let f = first; f <= last; f += step) {
      ctx.moveTo(x(f), top);
      ctx.lineTo(x(f), 27);
    }
    ctx.strokeStyle = colour;
    ctx.lineWidth = 1;
    ctx.stroke();
  };
  ticks(fine, 21, palette.rule);
  ticks(label, 14, palette.soft);
  for (let f = first; f <= last; f += label) {
    const [what, more] = [text(f), beside(f)];
    ctx.font = RULER;
    ctx.fillStyle = palette.soft;
    ctx.fillText(what, x(f) + 4, 17);
    if (!more) continue;
    const left = x(f) + 9 + textWidth(ctx, RULER, what);
    ctx.font = SMALL;
    ctx.globalAlpha = 0.75;
    ctx.fillText(more, left, 17);
    ctx.globalAlpha = 1;
  }
}
