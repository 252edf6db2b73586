import type { Scene } from '@warper/core';
import { captionText, linesAt } from '@warper/core';
import type { FilmSettings } from '../../../data/keptFilm';

/** What is said in a film, and how the film looks. */
interface Said {
  readonly scene: Pick<Scene, 'lines'>;
  readonly settings: FilmSettings;
  readonly theme: 'day' | 'night';
}

/** Writes what is said under a picture, in the middle, on a band that lets it be read. */
export function drawLines(
  ctx: CanvasRenderingContext2D,
  frame: number,
  { scene, settings, theme }: Said,
): void {
  const { width, height } = settings;
  const unit = Math.max(12, Math.round(height / 24));
  const rows = linesAt(scene.lines, Math.floor(frame + 1e-6)).map(captionText);
  if (rows.length === 0) return;
  ctx.save();
  ctx.font = `600 ${unit}px "Source Sans 3 Variable", "Source Sans 3", sans-serif`;
  ctx.textAlign = 'center';
  ctx.textBaseline = 'middle';
  const wrapped = rows.flatMap((row) => wrappedTo(ctx, row, width * 0.86));
  // Over what is written at the foot of the picture.
  const foot = settings.timecode || settings.names ? 1.2 : 0;
  wrapped.forEach((row, i) => {
    const y = height - unit * (1.6 + foot + (wrapped.length - 1 - i) * 1.5);
    const wide = ctx.measureText(row).width + unit;
    ctx.fillStyle = theme === 'night' ? 'rgba(20, 22, 26, 0.72)' : 'rgba(244, 241, 234, 0.82)';
    ctx.fillRect((width - wide) / 2, y - unit * 0.75, wide, unit * 1.5);
    ctx.fillStyle = theme === 'night' ? '#f4f1ea' : '#22252b';
    ctx.fillText(row, width / 2, y);
  });
  ctx.restore();
}

/** A text in rows that are no wider than so many pixels, broken between words. */
function wrappedTo(ctx: CanvasRenderingContext2D, text: string, width: number): string[] {
  const rows: string[] = [];
  for (const word of text.split(/\s+/)) {
    const last = rows.at(-1);
    const longer = last === undefined ? word : `${last} ${word}`;
    if (last !== undefined && ctx.measureText(longer).width > width) rows.push(word);
    else rows[Math.max(0, rows.length - 1)] = longer;
  }
  return rows;
}
