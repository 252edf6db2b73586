import type { Edit, SeamMeasures } from '@warper/core';
import { memo, useRef } from 'react';
import { useStore } from 'react-redux';
import { gradeColour, gradeShape, gradeWord, worstMeasure } from '../../parts/grade';
import { commit, preview } from '../../store/edits';
import { sessionActions } from '../../store/sessionSlice';
import type { RootState } from '../../store/store';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { SEGMENT_HEIGHT, TAG_ROOM, px, snap } from './geometry';
import { showGuide } from './guide';
import { snapTargets } from './snapping';
import type { TimelineDrag } from './useTimelineDrag';
import { useTimelineDrag } from './useTimelineDrag';

interface Props {
  readonly measures: SeamMeasures;
  /** The incoming segment, whose seam this is. */
  readonly segment: string;
  /** Names of the segments on both sides. */
  readonly outgoing: string;
  readonly incoming: string;
  /** How much of the measure there is room for. */
  readonly room: 'value' | 'grade' | 'nothing';
}

/** How wide a tag is by what it shows. */
const ROOM = { value: 'px-2', grade: 'px-0.5', nothing: 'h-[17px] w-[7px] bg-current/40!' } as const;

/** Pixels at the bottom of a seam where the edges of the segments under it can be taken. */
const EDGE_ROOM = 20;

/**
 * The stitches of a seam, which lengthen when dragged (with Shift out of both sides' unused frames, so that nothing else
 * moves), and a tag with its worst measure, which moves the seam when dragged.
 */
export const SeamStitch = memo(function SeamStitch({ measures, segment, outgoing, incoming, room }: Props) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const selected = useAppSelector(
    (s) => s.session.selection.kind === 'seam' && s.session.selection.id === segment,
  );
  const from = useRef({ overlap: 0, frame: 0 });
  const select = (): void => void dispatch(sessionActions.selected({ kind: 'seam', id: segment }));
  const drag = useTimelineDrag<'stitches' | 'tag'>((d: TimelineDrag<'stitches' | 'tag'>) => {
    if (d.first) {
      from.current = { overlap: measures.overlap, frame: measures.frame };
      select();
    }
    if (d.canceled || (d.arg === 'stitches' && measures.kind === 'settle')) {
      showGuide(null);
      return void dispatch(preview(null));
    }
    const change: Edit = d.arg === 'tag' ? shifted(d) : lengthened(d);
    if (d.last) showGuide(null);
    dispatch(d.last ? commit(change) : preview(change));
  }, select);
  const lengthened = (d: TimelineDrag<unknown>): Edit => {
    const overlap = Math.max(0, from.current.overlap + Math.round(d.frames));
    return d.event.shiftKey
      ? { type: 'widen seam', segment, overlap }
      : { type: 'overlap', segment, frames: overlap };
  };
  const shifted = (d: TimelineDrag<unknown>): Edit => {
    const { frame } = from.current;
    const state = store.getState();
    const targets = snapTargets(state, new Set([segment]), { from: frame - 600, to: frame + 600 });
    const met = d.event.altKey ? null : snap(frame + d.frames, targets, state.session.pixelsPerFrame);
    showGuide(met === frame ? null : met);
    return { type: 'shift seam', segment, frames: (met ?? Math.round(frame + d.frames)) - frame };
  };
  const value = worstMeasure(measures);
  const { kind, frame, overlap } = measures;
  const length = overlap || measures.settle;
  return (
    <>
      <div
        data-stitches
        className="absolute cursor-ew-resize touch-none"
        style={{
          left: `calc(${px(frame)} - 3px)`,
          top: TAG_ROOM,
          width: `calc(${px(length)} + 6px)`,
          height: SEGMENT_HEIGHT - EDGE_ROOM,
        }}
        {...drag('stitches')}
      />
      <svg
        className="pointer-events-none absolute"
        style={{
          left: `calc(${px(frame)} - 1px)`,
          top: TAG_ROOM,
          width: kind === 'cut' ? 3 : `max(8px, ${px(length)})`,
          maskImage: kind === 'settle' ? 'linear-gradient(to right, black, transparent)' : undefined,
        }}
        height={SEGMENT_HEIGHT}
        aria-hidden
      >
        <rect
          width="100%"
          height="100%"
          fill={kind === 'cut' ? 'var(--ink)' : 'url(#stitches)'}
          x={0}
          rx={1}
          transform={kind === 'cut' ? 'scale(0.75,1)' : undefined}
        />
      </svg>
      <button
        type="button"
        data-seam={segment}
        aria-label={`Seam from ${outgoing} to ${incoming} at frame ${frame}: ${gradeWord(measures.grade)}, ${value}`}
        aria-pressed={selected}
        title={`${outgoing} → ${incoming}: ${value}. Drag to move the seam`}
        className={`absolute z-10 -translate-x-1/2 touch-none rounded-full border bg-raised text-[11.5px] leading-[17px] whitespace-nowrap ${ROOM[room]} ${gradeColour(measures.grade)} ${selected ? 'border-current ring-1 ring-current' : 'border-current/50'}`}
        style={{ left: px(frame + overlap / 2), top: 4 }}
        {...drag('tag')}
        onKeyDown={(e) => {
          if (e.key === 'Enter' || e.key === ' ') select();
          else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
            const by = (e.key === 'ArrowLeft' ? -1 : 1) * (e.shiftKey ? 10 : 1);
            const change: Edit = e.altKey
              ? { type: 'widen seam', segment, overlap: Math.max(0, overlap + by) }
              : { type: 'shift seam', segment, frames: by };
            dispatch(commit(change));
            dispatch(
              sessionActions.announced(
                `The seam to ${incoming} ${e.altKey ? 'is longer' : 'moved'} by ${by}`,
              ),
            );
          } else return;
          e.preventDefault();
          e.stopPropagation();
        }}
      >
        {room !== 'nothing' && gradeShape(measures.grade)} {room === 'value' ? value : ''}
      </button>
    </>
  );
});

/** The stitches that all crossfades are filled with; drawn once. */
export function StitchPattern() {
  return (
    <svg width={0} height={0} className="absolute" aria-hidden>
      <defs>
        <pattern id="stitches" width={7} height={SEGMENT_HEIGHT} patternUnits="userSpaceOnUse">
          <line
            x1={1}
            x2={6}
            y1={SEGMENT_HEIGHT - 3}
            y2={3}
            stroke="var(--ink)"
            strokeWidth={1.5}
            strokeLinecap="round"
          />
        </pattern>
      </defs>
    </svg>
  );
}
