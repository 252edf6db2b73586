import type { Plan, Segment, SegmentPlan } from '@warper/core';
import { SILENT_WIDTH, silentShape } from '../hit';
import { TAG_WIDTH, hasSeams, laneShape, tagKind } from '../laneShape';
import type { Row } from '../rows';
import { drawFacing } from './drawFacing';
import { fadeOf } from '../layerShape';
import { drawLayer } from './drawLayer';
import { drawStitches, drawTag } from './drawSeam';
import { drawSegment, hatch, markMapped, segmentLabel } from './drawSegment';
import { seamFact } from './laneFacts';
import type { Pen } from './pen';
import { NAME, SMALL, fitted, placeNames, textWidth } from './text';

/** What a lane shows beyond what is on it. */
export interface LaneLook {
  readonly rate: Plan['rate'];
  /** Segments that are not performed. */
  readonly silent: readonly Segment[];
  readonly selected: ReadonlySet<string>;
  /** The seam in hand, by its incoming segment. */
  readonly seam: string;
  /** What the keyboard is on: a segment, or a seam by its incoming segment. */
  readonly focus: { readonly kind: 'segment' | 'seam'; readonly id: string } | null;
}

/** Pixels after which a long segment tells its name again. */
const AGAIN = 620;
/** Pixels that are left behind the last of these names. */
const LAST = 160;

/** What a gap is called on its lane. */
export const GAP_WORDS = { hold: '', ease: 'eases', rest: 'rest pose', 'lead-in': 'lead-in' } as const;

/** Draws one row of the timeline. False where some of it is not known yet. */
export function drawLane(pen: Pen, row: Row, look: LaneLook): boolean {
  const { segments, plan } = row;
  const { hue } = plan.character;
  const shape = { ...laneShape(row), hue };
  const [from, to] = [pen.frame(-70), pen.frame(pen.width + 70)];
  const seen = segments.flatMap((s, i) => (s.end >= from && s.start <= to ? [i] : []));
  let whole = true;
  for (const s of look.silent) if (!s.off) drawSilent(pen, row, s);
  if (row.lane.kind === 'body') drawGaps(pen, row, seen);
  const layer = plan.layers.find((l) => l.id === row.lane.id);
  if (layer) drawLayer(pen, layer, hue);
  // What is in hand lies over its neighbours, so that its outline is whole.
  const inHand = (i: number): boolean => look.selected.has(segments[i]!.id);
  for (const i of [...seen.filter((k) => !inHand(k)), ...seen.filter(inHand)])
    whole =
      drawSegment(pen, segments[i]!, {
        ...shape,
        selected: inHand(i),
        folded: row.folded,
        fade: layer ? fadeOf(segments, i) : null,
      }) && whole;
  if (layer && !row.folded)
    for (const i of seen) if (segments[i]!.overlap > 0) drawStitches(pen, segments[i]!, shape);
  const seams = hasSeams(row) ? seen.filter((i) => i > 0) : [];
  for (const i of seams) if (segments[i - 1]!.end >= segments[i]!.start) drawStitches(pen, segments[i]!);
  drawNames(
    pen,
    { top: shape.top, owner: plan.character.name },
    seen.map((i) => ({ plan: segments[i]!, next: segments[i + 1] })),
  );
  for (const i of seams) {
    const segment = segments[i]!;
    const measures = seamFact(plan, i, look.rate);
    if (measures) drawTag(pen, segment, measures, tagKind(segments, i, pen.ppf), look.seam === segment.id);
    else whole = false;
  }
  if (hasSeams(row)) whole = drawFacing(pen, plan) && whole;
  for (const s of look.silent) if (s.off) drawSilent(pen, row, s);
  if (look.focus) drawFocus(pen, row, look.focus);
  return whole;
}

function drawGaps(pen: Pen, { segments, plan, ...row }: Row, seen: readonly number[]): void {
  const shape = { ...laneShape({ segments, plan, ...row }), hue: plan.character.hue };
  if (plan.leadIn > 0) drawGap(pen, plan.start, plan.leadIn, 'lead-in', shape);
  for (const i of seen) {
    const [segment, next] = [segments[i]!, segments[i + 1]];
    if (next && next.start > segment.end)
      drawGap(pen, segment.end, next.start - segment.end, next.settings.seam.gap, shape);
  }
}

function drawGap(
  pen: Pen,
  at: number,
  frames: number,
  kind: keyof typeof GAP_WORDS,
  shape: { readonly top: number; readonly height: number; readonly hue: number },
): void {
  hatch(pen, at, frames, shape);
  const { ctx, palette } = pen;
  const [left, right] = [pen.x(at), pen.x(at + frames)];
  const word = fitted(ctx, SMALL, GAP_WORDS[kind], right - left - 4);
  if (!word) return;
  const wide = textWidth(ctx, SMALL, word);
  const [x, y] = [(left + right - wide) / 2, shape.top + shape.height - 5];
  ctx.fillStyle = palette.paper;
  ctx.globalAlpha = 0.85;
  ctx.fillRect(x - 3, y - 11, wide + 6, 15);
  ctx.globalAlpha = 1;
  ctx.fillStyle = palette.soft;
  ctx.font = SMALL;
  ctx.fillText(word, x, y);
}

/** A segment that is not performed: it can be seen where it waits. */
function drawSilent(pen: Pen, row: Row, segment: Segment): void {
  const { ctx, palette } = pen;
  const { top, height } = silentShape(row, segment);
  const text = fitted(ctx, SMALL, silentLabel(segment), SILENT_WIDTH - 8);
  const [x, width] = [pen.x(segment.start), textWidth(ctx, SMALL, text) + 8];
  ctx.save();
  ctx.setLineDash([3, 2]);
  ctx.strokeStyle = palette.hues[row.plan.character.hue]!;
  ctx.lineWidth = 1;
  ctx.fillStyle = palette.paper;
  ctx.beginPath();
  ctx.roundRect(x + 0.5, top + 0.5, width, height - 1, 4);
  if (segment.off) ctx.fill();
  ctx.stroke();
  ctx.restore();
  ctx.font = SMALL;
  ctx.fillStyle = palette.soft;
  ctx.fillText(text, x + 4, top + (segment.off ? 11.5 : 13));
}

export const silentLabel = ({ name, off }: Segment): string => `${name} ${off ? 'disabled' : 'muted'}`;

interface Named {
  readonly plan: SegmentPlan;
  readonly next: SegmentPlan | undefined;
}

function drawNames(
  pen: Pen,
  { top, owner }: { readonly top: number; readonly owner: string },
  all: readonly Named[],
): void {
  const { ctx, palette } = pen;
  const wanted = all.flatMap(({ plan, next }) => {
    const label = segmentLabel(plan);
    const end = pen.x(plan.end - (next?.overlap ?? 0)) - 4;
    const first = pen.x(plan.start + plan.overlap) + 8;
    const wide = end - first;
    const text = textWidth(ctx, NAME, label) <= wide ? label : withoutOwner(label, owner);
    const count = Math.max(1, Math.ceil((wide - LAST) / AGAIN));
    return Array.from({ length: count }, (_, n) => ({ x: first + n * AGAIN, end, text, plan }));
  });
  const byPlace = new Map(wanted.map((w) => [w.x, w]));
  for (const { x, text, over } of placeNames(ctx, wanted)) {
    const y = top + 16;
    ctx.font = NAME;
    if (over) {
      ctx.strokeStyle = palette.paper;
      ctx.lineWidth = 3;
      ctx.lineJoin = 'round';
      ctx.strokeText(text, x, y);
    }
    ctx.fillStyle = palette.ink;
    ctx.fillText(text, x, y);
    const { plan, end } = byPlace.get(x)!;
    if (plan.mapped && !over) markMapped(pen, x, y, textWidth(ctx, NAME, text), end - x);
  }
}

/** A name without that of the character, which the lane tells: "Dog trot" on the lane of the dog is "Trot". */
function withoutOwner(label: string, owner: string): string {
  if (!label.toLowerCase().startsWith(`${owner.toLowerCase()} `)) return label;
  const rest = label.slice(owner.length + 1).trimStart();
  return rest ? rest[0]!.toUpperCase() + rest.slice(1) : label;
}

/** The outline of what the keyboard is on. */
function drawFocus(pen: Pen, row: Row, focus: NonNullable<LaneLook['focus']>): void {
  const { ctx, palette } = pen;
  const i = row.segments.findIndex((s) => s.id === focus.id);
  const segment = row.segments[i];
  if (!segment) return;
  const { top, height } = laneShape(row);
  ctx.strokeStyle = palette.signal;
  ctx.lineWidth = 2;
  ctx.beginPath();
  if (focus.kind === 'segment') {
    const x = pen.x(segment.start);
    ctx.roundRect(x - 2, top - 2, Math.max(2, pen.x(segment.end) - x) + 4, height + 4, 5);
  } else {
    const x = pen.x(segment.start + segment.overlap / 2);
    const wide = TAG_WIDTH[tagKind(row.segments, i, pen.ppf)] + 4;
    ctx.roundRect(x - wide / 2, 2, wide, 22, 10);
  }
  ctx.stroke();
}
