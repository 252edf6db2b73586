import { beginFacts } from './facts';
import { forgetWidths } from './text';

/** Draws one canvas; false where something is still missing, to be drawn with the next picture. */
type Draw = () => boolean;

/** Milliseconds of a picture after which what can wait is left for the next one. */
const PATIENCE = 4;

const canvases = new Map<HTMLCanvasElement, Draw>();
const urgent = new Set<HTMLCanvasElement>();
const patient = new Set<HTMLCanvasElement>();
let request = 0;

/**
 * Has a canvas drawn with the next picture, once, however often it is asked for; with one of the next few where it can
 * wait: what is drawn already goes further than what is in sight.
 */
export function paintSoon(canvas: HTMLCanvasElement, draw: Draw, canWait: boolean): void {
  if (canvases.size === 0) watchTheme();
  canvases.set(canvas, draw);
  wait(canvas, canWait);
}

/** Lets go of a canvas. */
export function forgetCanvas(canvas: HTMLCanvasElement): void {
  canvases.delete(canvas);
  urgent.delete(canvas);
  patient.delete(canvas);
}

function wait(canvas: HTMLCanvasElement, canWait: boolean): void {
  if (!canWait) {
    patient.delete(canvas);
    urgent.add(canvas);
  } else if (!urgent.has(canvas)) patient.add(canvas);
  request ||= requestAnimationFrame(paint);
}

function paint(): void {
  request = 0;
  beginFacts();
  const began = performance.now();
  const first = [...urgent];
  const then = [...patient];
  urgent.clear();
  for (const canvas of first) if (canvases.get(canvas)?.() === false) wait(canvas, true);
  for (const canvas of then) {
    if (performance.now() - began > PATIENCE) break;
    patient.delete(canvas);
    if (canvases.get(canvas)?.() === false) wait(canvas, true);
  }
  if (patient.size > 0) request ||= requestAnimationFrame(paint);
}

let watching = false;

/** Colours, letters and the density of pixels may change under what is drawn. */
function watchTheme(): void {
  if (watching) return;
  watching = true;
  const all = (): void => [...canvases.keys()].forEach((canvas) => wait(canvas, false));
  new MutationObserver(all).observe(document.documentElement, { attributeFilter: ['data-theme'] });
  document.fonts.addEventListener('loadingdone', () => {
    forgetWidths();
    all();
  });
  window.addEventListener('resize', all);
}

/**
 * Puts a canvas where it is to be, as large as asked, pixels of the page, and gives what draws on it, emptied. Its place
 * changes only here, so that what is drawn always stands where it belongs.
 */
export function cleared(
  canvas: HTMLCanvasElement,
  left: number,
  width: number,
  height: number,
): CanvasRenderingContext2D {
  const dense = Math.min(2, window.devicePixelRatio || 1);
  const [w, h] = [Math.round(width * dense), Math.round(height * dense)];
  if (canvas.width !== w || canvas.height !== h) {
    canvas.width = w;
    canvas.height = h;
    canvas.style.width = `${width}px`;
    canvas.style.height = `${height}px`;
  }
  canvas.style.left = `${left}px`;
  // Small pictures that are drawn often come sooner from memory than from a card that may not be there.
  const ctx = canvas.getContext('2d', { willReadFrequently: true })!;
  ctx.setTransform(dense, 0, 0, dense, 0, 0);
  ctx.clearRect(0, 0, width, height);
  return ctx;
}
