import type { Palette } from './palette';

/** What draws a stretch of a lane. */
export interface Pen {
  readonly ctx: CanvasRenderingContext2D;
  readonly palette: Palette;
  /** Pixels of a frame, and of the stretch that is drawn. */
  readonly ppf: number;
  readonly width: number;
  /** Pixels from the left of the stretch to a frame, and back. */
  readonly x: (frame: number) => number;
  readonly frame: (x: number) => number;
}

/** @param left pixels from frame 0 to the left of the stretch */
export function makePen(
  ctx: CanvasRenderingContext2D,
  palette: Palette,
  ppf: number,
  left: number,
  width: number,
): Pen {
  return { ctx, palette, ppf, width, x: (frame) => frame * ppf - left, frame: (x) => (x + left) / ppf };
}
