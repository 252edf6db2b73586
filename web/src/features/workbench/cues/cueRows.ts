import type { Edit, Join, Plan, Scene, Segment } from '@warper/core';
import { PLAIN_CROSSFADE, PLAIN_STEP, bodyLane, joinOf, settleFrames, defined } from '@warper/core';

/** One beat of the cue sheet. */
export interface CueRow {
  readonly segment: Segment;
  readonly lane: string;
  readonly character: string;
  readonly characterName: string;
  /** First frame and the one after the last; null where it is switched off. */
  readonly span: { readonly start: number; readonly end: number } | null;
  readonly repeat: number;
  /** The seam before it, in words; empty for the first of its lane. */
  readonly seam: string;
}

/** The beats of every character in order, as the lanes have them. */
export function cueRows(scene: Scene, plan: Plan): CueRow[] {
  return plan.characters.flatMap(({ character, segments }) => {
    const lane = bodyLane(scene, character.id);
    const spans = new Map(segments.map((s, i) => [s.id, { s, i }]));
    return (lane?.segments ?? []).map((id): CueRow => {
      const segment = defined(scene.segments[id]);
      const placed = spans.get(id);
      return {
        segment,
        lane: defined(lane).id,
        character: character.id,
        characterName: character.name,
        span: placed ? { start: placed.s.start, end: placed.s.end } : null,
        repeat: segment.repeat,
        seam: placed && placed.i > 0 ? seamWords(segment, placed.s.overlap) : '',
      };
    });
  });
}

/** A seam in words: `cut`, `crossfade 8`, `settle 9`, `step 20`. */
function seamWords({ seam }: Segment, overlap: number): string {
  const join = joinOf(seam, overlap);
  switch (join.kind) {
    case 'crossfade':
      return `crossfade ${overlap}`;
    case 'settle':
      return `settle ${join.frames}`;
    case 'step':
      return `step ${overlap}`;
    case 'cut':
      return 'cut';
  }
}

/** What a seam in words asks for; null where it cannot be read. */
export function parseSeam(text: string): { kind: Join['kind']; frames: number | null } | null {
  const match = /^\s*(cut|crossfade|settle|step)\s*(\d+)?\s*f?\s*$/i.exec(text);
  if (!match) return null;
  const kind = defined(match[1]).toLowerCase() as Join['kind'];
  return { kind, frames: kind === 'cut' || match[2] === undefined ? null : Number(match[2]) };
}

/** The edits that make the seam before a segment what is asked for. */
export function seamEdits(
  segment: string,
  asked: NonNullable<ReturnType<typeof parseSeam>>,
  rate: Plan['rate'],
): Edit[] {
  const { kind, frames } = asked;
  if (kind === 'crossfade' || kind === 'step') {
    return [
      { type: 'seam', segment, values: {}, join: kind === 'step' ? PLAIN_STEP : PLAIN_CROSSFADE },
      { type: 'overlap', segment, frames: frames === null || frames === 0 ? 'auto' : frames },
    ];
  }
  const join: Join = kind === 'cut' ? { kind } : { kind, frames: Math.max(1, frames ?? settleFrames(rate)) };
  return [
    { type: 'overlap', segment, frames: 0 },
    { type: 'seam', segment, values: {}, join },
  ];
}

/** The sheet as tab-separated text, as spreadsheets take it. */
export function tableText(rows: readonly CueRow[]): string {
  const lines = rows.map((r) => [
    r.characterName,
    r.segment.name,
    String(Number(r.repeat.toFixed(3))),
    r.span ? String(r.span.end - r.span.start) : '',
    r.seam,
    r.segment.off ? 'off' : 'on',
  ]);
  return [HEADINGS, ...lines].map((cells) => cells.map(plainCell).join('\t')).join('\n');
}

/** The columns of the sheet as text. */
export const HEADINGS = ['character', 'clip', 'repeats', 'length', 'seam', 'on'];

const plainCell = (text: string): string => text.replace(/[\t\r\n]+/g, ' ');
