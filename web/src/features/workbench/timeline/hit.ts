import { defined } from '@warper/core';
import type { Segment, SegmentPlan } from '@warper/core';
import { SEGMENT_HEIGHT, TAG_ROOM } from './geometry';
import { TAG_WIDTH, hasSeams, laneShape, seamFrames, tagFrame, tagKind } from './laneShape';
import type { Row } from './rows';

export type Grip = 'body' | 'start' | 'end';

/** What of the lanes is at a place. */
export type Hit =
  | { readonly kind: 'segment'; readonly row: Row; readonly plan: SegmentPlan; readonly grip: Grip }
  | { readonly kind: 'seam'; readonly row: Row; readonly index: number; readonly part: 'tag' | 'stitches' }
  | { readonly kind: 'silent'; readonly row: Row; readonly segment: Segment };

/** Pixels from an edge within which it is taken, where the segment is wide enough. */
const EDGE = 8;
/** Pixels in the middle of a segment by which it can always be moved; one that is narrower is a grip all over. */
const BODY = 12;
/** Pixels around a seam within which its stitches are taken. */
const AROUND = 3;
/** The most of a segment that a seam can be taken by. */
const SHARE = 1 / 3;
/** Pixels at the bottom of a seam where the edges of the segments under it can be taken. */
const EDGE_ROOM = 20;
/** How wide the name of a segment that is not performed stands, pixels. */
export const SILENT_WIDTH = 120;
/** What is switched off takes no time, and hangs as a tab over the lower edge of what stands there now. */
const TAB = { above: 8, height: 15 };

/** Where a segment that is not performed waits, pixels from its row's top. */
export function silentShape(row: Row, segment: Segment): { readonly top: number; readonly height: number } {
  const { top, height } = laneShape(row);
  return segment.off ? { top: top + height - TAB.above, height: TAB.height } : { top, height };
}

/**
 * What is at a place of the lanes: tags of seams over stitches over tabs of what is switched off over edges over segments,
 * and what is muted where nothing else is.
 *
 * @param x pixels from frame 0
 * @param y pixels from the top of the first row
 */
export function hitAt(
  rows: readonly Row[],
  silent: (row: Row) => readonly Segment[],
  x: number,
  y: number,
  pixelsPerFrame: number,
): Hit | null {
  const row = rows.find((r) => y >= r.top && y < r.top + r.height);
  if (!row) return null;
  const down = y - row.top;
  const waiting = silent(row);
  const tabs = waiting.filter((s) => s.off);
  return (
    (hasSeams(row) ? seamAt(row, x, down, pixelsPerFrame) : null) ??
    silentAt(row, tabs, x, down, pixelsPerFrame) ??
    segmentAt(row, x, down, pixelsPerFrame) ??
    silentAt(row, waiting, x, down, pixelsPerFrame)
  );
}

function seamAt(row: Row, x: number, y: number, ppf: number): Hit | null {
  const { segments } = row;
  for (let i = segments.length - 1; i > 0; i--) {
    const wide = TAG_WIDTH[tagKind(segments, i, ppf)];
    if (y < TAG_ROOM + 3 && Math.abs(x - tagFrame(defined(segments[i])) * ppf) <= wide / 2)
      return { kind: 'seam', row, index: i, part: 'tag' };
  }
  if (y < TAG_ROOM || y >= TAG_ROOM + SEGMENT_HEIGHT - EDGE_ROOM) return null;
  for (let i = segments.length - 1; i > 0; i--) {
    const segment = defined(segments[i]);
    if (defined(segments[i - 1]).end < segment.start) continue;
    const [from, to] = seamPixels(defined(segments[i - 1]), segment, ppf);
    if (x >= from && x <= to) return { kind: 'seam', row, index: i, part: 'stitches' };
  }
  return null;
}

/** Where the stitches of a seam are taken: around its frames, but never more than a part of the narrower segment. */
function seamPixels(before: SegmentPlan, segment: SegmentPlan, ppf: number): readonly [number, number] {
  const frames = seamFrames(segment);
  const most = SHARE * ppf * Math.min(before.end - before.start, segment.end - segment.start);
  const half = Math.min(frames * ppf + 2 * AROUND, most) / 2;
  const middle = (segment.start + frames / 2) * ppf;
  return [middle - half, middle + half];
}

function segmentAt(row: Row, x: number, y: number, ppf: number): Hit | null {
  const { top, height } = laneShape(row);
  if (y < top || y >= top + height) return null;
  let best: Hit | null = null;
  for (const plan of row.segments) {
    const [from, to] = [plan.start * ppf, Math.max(plan.end * ppf, plan.start * ppf + 2)];
    if (x < from || x > to) continue;
    const edge = Math.min(EDGE, Math.max(0, to - from - BODY) / 2);
    const grip: Grip = x - from <= edge ? 'start' : to - x <= edge ? 'end' : 'body';
    // Later segments lie over earlier ones, but the end of an earlier one can be taken under them.
    if (grip !== 'body' || best?.kind !== 'segment' || best.grip === 'body')
      best = { kind: 'segment', row, plan, grip };
  }
  return best;
}

function silentAt(row: Row, silent: readonly Segment[], x: number, y: number, ppf: number): Hit | null {
  const segment = silent.find((s) => {
    const { top, height } = silentShape(row, s);
    const from = s.start * ppf;
    return y >= top && y < top + height && x >= from && x <= from + SILENT_WIDTH;
  });
  return segment ? { kind: 'silent', row, segment } : null;
}
