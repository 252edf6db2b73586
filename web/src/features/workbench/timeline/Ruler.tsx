import { useDrag } from '@use-gesture/react';
import type { FrameSpan, Marker, Rate } from '@warper/core';
import { framesPerSecond, defined } from '@warper/core';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { useStore } from 'react-redux';
import { showTime } from '../../../ui/time';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { drawRuler } from './drawing/drawRuler';
import { cleared, forgetCanvas, paintSoon } from './drawing/painter';
import { paletteNow } from './drawing/palette';
import { makePen } from './drawing/pen';
import { RULER_HEIGHT, tickSteps } from './geometry';
import { PlayRange } from './PlayRange';
import { Button } from '../../../ui/controls';

interface Props {
  /** Pixels of the content between which it is drawn. */
  readonly left: number;
  readonly right: number;
  /** Pixels of a frame. */
  readonly ppf: number;
  readonly rate: Rate;
  readonly markers: readonly Marker[];
  readonly range: FrameSpan | null;
  /** Where the scene ends, frames. */
  readonly end: number;
}

/** Frame numbers over the lanes, markers and the play range; a press or a drag puts the playhead there. */
export function Ruler({ left, right, ppf, rate, markers, range, end }: Props) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const unit = useAppSelector((s) => s.session.unit);
  const element = useRef<HTMLDivElement>(null);
  const fps = framesPerSecond(rate);
  const { label, fine } = tickSteps(unit === 'timecode' ? ppf * 0.75 : ppf, fps);
  const bind = useDrag(
    ({ xy: [x], event }) => {
      if ((event.target as HTMLElement).closest('[data-marker], [role=slider]')) return;
      const from = element.current?.getBoundingClientRect().left ?? 0;
      dispatch(sessionActions.played(false));
      const frame = (x - from) / store.getState().session.pixelsPerFrame;
      dispatch(sessionActions.went(Math.round(Math.max(0, frame))));
    },
    { pointer: { keys: false } },
  );
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    const drawn = defined(canvas.current);
    const whole = Math.round(fps);
    const text = (f: number): string =>
      unit === 'timecode' && label >= fps ? showTime(f, rate, unit) : String(f);
    const beside = (f: number): string =>
      unit === 'seconds' && f > 0 && f % whole === 0 && label * ppf >= 66 ? `${f / whole} s` : '';
    const draw = (): boolean => {
      const ctx = cleared(drawn, left, right - left, RULER_HEIGHT);
      drawRuler(makePen(ctx, paletteNow(), ppf, left, right - left), { label, fine, text, beside });
      return true;
    };
    paintSoon(drawn, draw, false);
  }, [ppf, left, right, label, fine, unit, fps, rate]);
  useEffect(() => {
    const drawn = defined(canvas.current);
    return () => forgetCanvas(drawn);
  }, []);
  return (
    <div
      ref={element}
      className="relative cursor-pointer touch-none overflow-clip border-b bg-paper"
      style={{ height: RULER_HEIGHT }}
      data-ruler
      {...bind()}
    >
      <canvas ref={canvas} className="pointer-events-none absolute top-0" aria-hidden />
      <PlayRange range={range} end={end} ppf={ppf} />
      {markers.map((m) => (
        <MarkerFlag key={m.id} marker={m} ppf={ppf} />
      ))}
    </div>
  );
}

/** A marker as a flag of tape, or a region as a band; it is dragged along, and renamed in its card. */
function MarkerFlag({ marker, ppf }: { marker: Marker; ppf: number }) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const selected = useAppSelector(
    (s) => s.session.selection.kind === 'marker' && s.session.selection.id === marker.id,
  );
  const [by, setBy] = useState(0);
  const select = (): void => {
    dispatch(sessionActions.selected({ kind: 'marker', id: marker.id }));
    dispatch(sessionActions.went(marker.frame));
  };
  const move = (frames: number): void => {
    const { frame, end } = marker;
    const shifted = Math.max(-frame, frames);
    dispatch(
      commit({
        type: 'marker',
        marker: { ...marker, frame: frame + shifted, end: end === null ? null : end + shifted },
      }),
    );
  };
  const bind = useDrag(
    ({ xy: [x], initial: [x0], last, tap, event }) => {
      event.stopPropagation();
      if (tap) return select();
      const frames = Math.round((x - x0) / store.getState().session.pixelsPerFrame);
      setBy(last ? 0 : frames);
      if (last && frames !== 0) move(frames);
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  const length = marker.end === null ? 0 : marker.end - marker.frame;
  return (
    <Button
      look="bare"
      data-marker={marker.id}
      aria-pressed={selected}
      aria-label={`Marker ${marker.name} at frame ${marker.frame}${length ? ` to ${marker.end}` : ''}`}
      title={`${marker.name}, frame ${marker.frame}`}
      className={`absolute bottom-0 z-10 h-[13px] touch-none truncate rounded-t-[3px] border-l-2 border-ink px-1 text-left text-tick leading-[13px] ${selected ? 'bg-ink text-paper' : 'bg-rule text-ink'}`}
      style={{
        left: (marker.frame + by) * ppf,
        width: length > 0 ? length * ppf : undefined,
        minWidth: 10,
        maxWidth: length > 0 ? undefined : 110,
      }}
      {...bind()}
      onKeyDown={(e) => {
        if (e.key === 'ArrowLeft' || e.key === 'ArrowRight')
          move((e.key === 'ArrowLeft' ? -1 : 1) * (e.shiftKey ? 10 : 1));
        else if (e.key === 'Enter' || e.key === ' ') select();
        else return;
        e.preventDefault();
        e.stopPropagation();
      }}
    >
      {marker.name}
    </Button>
  );
}
