/** What measures a text: a canvas, or what stands for one. */
export type Measuring = Pick<CanvasRenderingContext2D, 'font' | 'measureText'>;

const FAMILY = "'Source Sans 3 Variable', sans-serif";
export const NAME = `13px ${FAMILY}`;
export const SMALL = `11.5px ${FAMILY}`;
export const RULER = `12px ${FAMILY}`;
export const REMARK = `italic 11.5px ${FAMILY}`;

const widths = new Map<string, number>();

/** How wide a text is, pixels. */
export function textWidth(ctx: Measuring, font: string, text: string): number {
  const key = font + text;
  let width = widths.get(key);
  if (width === undefined) {
    // Names are few, but what is measured while typing must not pile up.
    if (widths.size > 4000) widths.clear();
    ctx.font = font;
    widths.set(key, (width = ctx.measureText(text).width));
  }
  return width;
}

/** Measures anew: letters that were on their way have come. */
export const forgetWidths = (): void => widths.clear();

/** A text as far as it has room, with dots where it goes on; empty where not even a letter has room. */
export function fitted(ctx: Measuring, font: string, text: string, room: number): string {
  if (textWidth(ctx, font, text) <= room) return text;
  let [fits, not] = [0, text.length];
  while (not - fits > 1) {
    const middle = (fits + not) >> 1;
    if (textWidth(ctx, font, `${text.slice(0, middle)}…`) <= room) fits = middle;
    else not = middle;
  }
  return fits > 0 ? `${text.slice(0, fits).trimEnd()}…` : '';
}

/** A name that wants to stand at a place. */
export interface Wanted {
  /** Where it begins, and how far it may go without leaving its own segment. */
  readonly x: number;
  readonly end: number;
  readonly text: string;
}

export interface Placed {
  readonly x: number;
  readonly text: string;
  /** It runs on over what is behind its segment. */
  readonly over: boolean;
}

/** Room in which a name is told inside its own segment, and that it needs at least when it runs on over others. */
const INSIDE = 26;
const OVER = 34;
/** Pixels between two names. */
const APART = 6;

/**
 * Where names of a lane stand, in order: inside their segments where these are wide enough; else running on over those
 * behind that have no room for their own either.
 */
export function placeNames(ctx: Measuring, wanted: readonly Wanted[]): Placed[] {
  const out: Placed[] = [];
  let free = -Infinity;
  wanted.forEach((w, i) => {
    const inside = w.end - w.x >= INSIDE;
    if (w.x < free) return;
    const limit = inside ? w.end : nextInside(wanted, i) - APART;
    if (!inside && limit - w.x < OVER) return;
    const text = fitted(ctx, NAME, w.text, limit - w.x);
    if (!text) return;
    out.push({ x: w.x, text, over: !inside });
    free = w.x + textWidth(ctx, NAME, text) + APART;
  });
  return out;
}

/** Where the next name begins that has room of its own. */
function nextInside(wanted: readonly Wanted[], from: number): number {
  for (let i = from + 1; i < wanted.length; i++) {
    if (wanted[i]!.x > wanted[from]!.x + 160) break;
    if (wanted[i]!.end - wanted[i]!.x >= INSIDE) return wanted[i]!.x;
  }
  return wanted[from]!.x + 160;
}
