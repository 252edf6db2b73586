import { useDrag } from '@use-gesture/react';
import type { SeamMeasures } from '@warper/core';
import { useRef } from 'react';
import { gradeColour, gradeShape, gradeWord, worstMeasure } from '../../parts/grade';
import { commit, preview } from '../../store/edits';
import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { SEGMENT_HEIGHT, TAG_ROOM } from './geometry';

interface Props {
  readonly measures: SeamMeasures;
  /** The incoming segment, whose seam this is. */
  readonly segment: string;
  readonly names: readonly [string, string];
}

/** Pixels at the bottom of a seam where the edges of the segments under it can be taken. */
const EDGE_ROOM = 20;

/** The stitches of a seam, which lengthen when dragged, and a tag with its worst measure. */
export function SeamStitch({ measures, segment, names }: Props) {
  const dispatch = useAppDispatch();
  const ppf = useAppSelector((s) => s.session.pixelsPerFrame);
  const selected = useAppSelector(
    (s) => s.session.selection.kind === 'seam' && s.session.selection.id === segment,
  );
  const from = useRef(0);
  const x = measures.frame * ppf;
  const width = (measures.overlap || measures.settle) * ppf;
  const bind = useDrag(
    ({ xy, initial, first, last, tap }) => {
      if (first) from.current = measures.overlap;
      dispatch(sessionActions.selected({ kind: 'seam', id: segment }));
      if (tap || measures.kind === 'settle') return;
      const change = {
        type: 'overlap',
        segment,
        frames: from.current + Math.round((xy[0] - initial[0]) / ppf),
      } as const;
      dispatch(last ? commit(change) : preview(change));
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  const value = worstMeasure(measures);
  return (
    <>
      <svg
        className="pointer-events-none absolute overflow-visible"
        style={{ left: x - 3, top: TAG_ROOM }}
        width={width + 6}
        height={SEGMENT_HEIGHT}
        aria-hidden
      >
        <rect
          width={width + 6}
          height={SEGMENT_HEIGHT - EDGE_ROOM}
          fill="transparent"
          className="pointer-events-auto cursor-ew-resize touch-none"
          {...bind()}
        />
        {stitches(measures.kind, width).map(([x1, x2], i) => (
          <line
            key={i}
            x1={x1 + 3}
            x2={x2 + 3}
            y1={SEGMENT_HEIGHT - 3}
            y2={3}
            stroke="var(--ink)"
            strokeWidth={weight(measures.kind, i, width)}
            strokeLinecap="round"
          />
        ))}
      </svg>
      <button
        type="button"
        data-seam={segment}
        aria-label={`Seam from ${names[0]} to ${names[1]} at frame ${measures.frame}: ${gradeWord(measures.grade)}, ${value}`}
        aria-pressed={selected}
        className={`absolute z-10 -translate-x-1/2 rounded-full border bg-raised px-2 text-[11.5px] leading-[17px] whitespace-nowrap ${gradeColour(measures.grade)} ${selected ? 'border-current ring-1 ring-current' : 'border-current/50'}`}
        style={{ left: x + (measures.overlap * ppf) / 2, top: 4 }}
        onClick={() => dispatch(sessionActions.selected({ kind: 'seam', id: segment }))}
      >
        {gradeShape(measures.grade)} {value}
      </button>
    </>
  );
}

/** Stitches of a settling seam thin out to the right. */
function weight(kind: SeamMeasures['kind'], index: number, width: number): number {
  if (kind === 'cut') return 2.2;
  return kind === 'crossfade' ? 1.5 : Math.max(0.4, 2.3 * (1 - index / stitchCount(width)));
}

const stitchCount = (width: number): number => Math.max(2, Math.min(40, Math.round(width / 7)));

/** Lines of the stitches, by the x of their lower and upper ends. */
function stitches(kind: SeamMeasures['kind'], width: number): [number, number][] {
  if (kind === 'cut') return [[0, 0]];
  const count = stitchCount(width);
  return Array.from({ length: count }, (_, i): [number, number] => {
    const a = (i * width) / count;
    return [a, a + (width / count) * 0.85];
  });
}
