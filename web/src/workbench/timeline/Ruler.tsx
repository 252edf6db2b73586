import { useDrag } from '@use-gesture/react';
import type { FrameSpan, Marker, Rate } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { useRef, useState } from 'react';
import { useStore } from 'react-redux';
import { showTime } from '../../parts/time';
import { commit } from '../../store/edits';
import { sessionActions } from '../../store/sessionSlice';
import type { RootState } from '../../store/store';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { RULER_HEIGHT, px, tickSteps } from './geometry';

interface Props {
  readonly from: number;
  readonly to: number;
  readonly rate: Rate;
  readonly markers: readonly Marker[];
  readonly range: FrameSpan | null;
}

/** Frame numbers over the lanes, markers and the play range; a press or a drag puts the playhead there. */
export function Ruler({ from, to, rate, markers, range }: Props) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const ppf = useAppSelector((s) => s.session.pixelsPerFrame);
  const unit = useAppSelector((s) => s.session.unit);
  const element = useRef<HTMLDivElement>(null);
  const fps = framesPerSecond(rate);
  const { label, fine } = tickSteps(unit === 'timecode' ? ppf * 0.75 : ppf, fps);
  const bind = useDrag(
    ({ xy: [x], event }) => {
      if ((event.target as HTMLElement).closest('[data-marker]')) return;
      const left = element.current?.getBoundingClientRect().left ?? 0;
      dispatch(sessionActions.played(false));
      const frame = (x - left) / store.getState().session.pixelsPerFrame;
      dispatch(sessionActions.went(Math.round(Math.max(0, frame))));
    },
    { pointer: { keys: false } },
  );
  const first = Math.max(0, Math.floor(from / label) * label);
  const ticks = Array.from(
    { length: Math.max(0, Math.ceil((to - first) / fine)) },
    (_, i) => first + i * fine,
  );
  return (
    <div
      ref={element}
      className="relative cursor-pointer touch-none overflow-clip border-b bg-paper"
      style={{ height: RULER_HEIGHT }}
      data-ruler
      {...bind()}
    >
      {range && (
        <div
          className="absolute inset-y-0 border-x-2 border-signal/70 bg-signal/10"
          style={{ left: px(range.from), width: px(range.to - range.from) }}
          title={`Plays frames ${range.from} to ${range.to}`}
        />
      )}
      <svg width="100%" height={RULER_HEIGHT} className="absolute inset-0 overflow-visible" aria-hidden>
        {ticks.map((f) => (
          <line
            key={f}
            x1={f * ppf}
            x2={f * ppf}
            y1={f % label === 0 ? 14 : 21}
            y2={27}
            stroke={f % label === 0 ? 'var(--soft)' : 'var(--rule)'}
          />
        ))}
        {ticks
          .filter((f) => f % label === 0)
          .map((f) => (
            <text key={f} x={f * ppf + 4} y={17} className="fill-soft text-[12px]">
              {unit === 'timecode' && label >= fps ? showTime(f, rate, unit) : f}
            </text>
          ))}
      </svg>
      {markers.map((m) => (
        <MarkerFlag key={m.id} marker={m} />
      ))}
    </div>
  );
}

/** A marker as a flag of tape, or a region as a band; it is dragged along, and renamed in its card. */
function MarkerFlag({ marker }: { marker: Marker }) {
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
    ({ movement: [x], last, tap, event }) => {
      event.stopPropagation();
      if (tap) return select();
      const frames = Math.round(x / store.getState().session.pixelsPerFrame);
      setBy(last ? 0 : frames);
      if (last && frames !== 0) move(frames);
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  const length = marker.end === null ? 0 : marker.end - marker.frame;
  return (
    <button
      type="button"
      data-marker={marker.id}
      aria-pressed={selected}
      aria-label={`Marker ${marker.name} at frame ${marker.frame}${length ? ` to ${marker.end}` : ''}`}
      title={`${marker.name}, frame ${marker.frame}`}
      className={`absolute bottom-0 z-10 h-[13px] touch-none truncate rounded-t-[3px] border-l-2 border-ink px-1 text-left text-[11px] leading-[13px] ${selected ? 'bg-ink text-paper' : 'bg-rule text-ink'}`}
      style={{
        left: px(marker.frame + by),
        width: length > 0 ? px(length) : undefined,
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
    </button>
  );
}
