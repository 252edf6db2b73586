import { useDrag } from '@use-gesture/react';
import type { FrameSpan } from '@warper/core';
import { useState } from 'react';
import { useStore } from 'react-redux';
import { commit } from '../../../store/edits';
import type { RootState } from '../../../store/store';
import { useAppDispatch } from '../../../store/store';
import { movedRange } from './movedRange';

interface Props {
  readonly range: FrameSpan | null;
  /** Where the scene ends, frames. */
  readonly end: number;
  readonly ppf: number;
}

const NAMES = { from: 'Start of the play range', to: 'End of the play range' } as const;

/** What is played, as a band in the ruler with a handle at each end; without a range the handles wait at the scene's ends. */
export function PlayRange({ range, end, ppf }: Props) {
  const [held, setHeld] = useState<FrameSpan | null>(null);
  if (end < 1) return null;
  const shown = held ?? range ?? { from: 0, to: end };
  const whole = !held && !range;
  return (
    <>
      <div
        className={`pointer-events-none absolute top-0 h-[3px] ${whole ? 'bg-rule' : 'bg-signal/60'}`}
        style={{ left: shown.from * ppf, width: (shown.to - shown.from) * ppf }}
      />
      {(['from', 'to'] as const).map((side) => (
        <Handle key={side} side={side} range={range} shown={shown} end={end} ppf={ppf} onHold={setHeld} />
      ))}
    </>
  );
}

interface HandleProps extends Props {
  readonly side: keyof FrameSpan;
  readonly shown: FrameSpan;
  readonly onHold: (range: FrameSpan | null) => void;
}

/** One end of the play range: dragged, or moved by the arrow keys, ten frames with Shift. */
function Handle({ side, range, shown, end, ppf, onHold }: HandleProps) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const take = (frame: number): void => {
    const next = movedRange(range, side, frame, end);
    if (next?.from !== range?.from || next?.to !== range?.to)
      dispatch(commit({ type: 'range', range: next }));
  };
  const bind = useDrag(
    ({ first, last, tap, canceled, xy: [x], initial: [x0], event, memo }) => {
      event.stopPropagation();
      const from = first ? shown[side] : (memo as number);
      const frame = from + (x - x0) / store.getState().session.pixelsPerFrame;
      onHold(last || canceled ? null : (movedRange(range, side, frame, end) ?? { from: 0, to: end }));
      if (last && !tap && !canceled) take(frame);
      return from;
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={NAMES[side]}
      aria-valuemin={side === 'from' ? 0 : shown.from + 1}
      aria-valuemax={side === 'from' ? shown.to - 1 : Math.max(end, shown.to)}
      aria-valuenow={shown[side]}
      aria-valuetext={`frame ${shown[side]}`}
      title={`${NAMES[side]}, frame ${shown[side]}`}
      className={`absolute top-0 z-10 flex h-3 w-3 cursor-ew-resize touch-none ${side === 'from' ? '' : '-translate-x-full justify-end'}`}
      style={{ left: shown[side] * ppf }}
      {...bind()}
      onKeyDown={(e) => {
        if (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight') return;
        take(shown[side] + (e.key === 'ArrowLeft' ? -1 : 1) * (e.shiftKey ? 10 : 1));
        e.preventDefault();
        e.stopPropagation();
      }}
    >
      <span
        className={`h-[8px] w-[6px] ${side === 'from' ? 'rounded-br' : 'rounded-bl'} ${range ? 'bg-signal' : 'bg-soft/60'}`}
      />
    </div>
  );
}
