import { useDrag } from '@use-gesture/react';
import type { Edit, SegmentPlan } from '@warper/core';
import type { KeyboardEvent } from 'react';
import { useRef } from 'react';
import { commit, freshId, preview } from '../../store/edits';
import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { SEGMENT_HEIGHT, TAG_ROOM, snap } from './geometry';
import { SegmentDrawing } from './SegmentDrawing';

interface Props {
  readonly plan: SegmentPlan;
  readonly lane: string;
  readonly hue: number;
  readonly nextOverlap: number;
  /** Frames that edges snap to. */
  readonly targets: readonly number[];
}

type Grip = 'body' | 'start' | 'end';

/** One segment on a lane: select, move, trim or repeat by pointer and by keys. */
export function SegmentBlock({ plan, lane, hue, nextOverlap, targets }: Props) {
  const dispatch = useAppDispatch();
  const ppf = useAppSelector((s) => s.session.pixelsPerFrame);
  const selected = useAppSelector(
    (s) => s.session.selection.kind === 'segment' && s.session.selection.id === plan.id,
  );
  const origin = useRef({ start: 0, end: 0, edit: null as Edit | null });
  const width = Math.max(2, (plan.end - plan.start) * ppf);
  const label =
    plan.loop && plan.repeat !== 1 ? `${plan.name} ×${Number(plan.repeat.toFixed(2))}` : plan.name;

  const bind = useDrag(
    ({ args, initial, first, last, tap, event, xy, canceled }) => {
      const grip = args[0] as Grip;
      if (first) origin.current = { start: plan.start, end: plan.end, edit: null };
      dispatch(sessionActions.selected({ kind: 'segment', id: plan.id }));
      if (tap) return;
      if (canceled) return void dispatch(preview(null));
      const free = (event as PointerEvent).altKey;
      const by = (xy[0] - initial[0]) / ppf;
      const { start, end } = origin.current;
      const goal = (frame: number): number =>
        free ? Math.round(frame) : Math.round(snap(frame, cycleTargets(plan, grip, targets), ppf));
      let change: Edit;
      if (grip === 'body') {
        const head = goal(start + by);
        const tail = goal(end + by) - (end - start);
        const to =
          Math.abs(head - (start + by)) <= Math.abs(tail - (start + by)) && head !== Math.round(start + by)
            ? head
            : tail;
        change = { type: 'move', segment: plan.id, start: to, lane: laneAt(xy) ?? lane };
      } else
        change = {
          type: 'trim',
          segment: plan.id,
          edge: grip,
          frame: goal((grip === 'start' ? start : end) + by),
        };
      origin.current.edit = change;
      dispatch(last ? commit(change) : preview(change));
    },
    { filterTaps: true, pointer: { keys: false } },
  );

  const onKeyDown = (event: KeyboardEvent): void => {
    const by = (event.key === 'ArrowLeft' ? -1 : 1) * (event.shiftKey ? 10 : 1);
    const mod = event.ctrlKey || event.metaKey;
    if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') {
      if (event.altKey)
        dispatch(commit({ type: 'trim', segment: plan.id, edge: 'end', frame: plan.end + by }));
      else dispatch(commit({ type: 'move', segment: plan.id, start: plan.start + by, lane }));
      dispatch(sessionActions.announced(`${plan.name} moved by ${by} frames`));
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      dispatch(commit({ type: 'remove', segment: plan.id, close: !event.shiftKey }));
      dispatch(sessionActions.selected({ kind: 'scene' }));
    } else if (event.key === 'd' && !mod)
      dispatch(commit({ type: 'duplicate', segment: plan.id, id: freshId('g') }));
    else if (event.key === 'Enter') dispatch(sessionActions.selected({ kind: 'segment', id: plan.id }));
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <div
      role="button"
      tabIndex={0}
      data-segment={plan.id}
      aria-label={`${label}${plan.mapped ? ' mapped' : ''}, frames ${plan.start} to ${plan.end}`}
      aria-pressed={selected}
      className="absolute touch-none rounded-[4px] outline-offset-2"
      style={{
        left: plan.start * ppf,
        top: TAG_ROOM,
        width,
        height: SEGMENT_HEIGHT,
        background: `color-mix(in srgb, var(--hue-${hue}) 15%, transparent)`,
        boxShadow: selected ? 'inset 0 0 0 2px var(--ink)' : `inset 0 0 0 1px var(--hue-${hue})`,
      }}
      onFocus={() => dispatch(sessionActions.selected({ kind: 'segment', id: plan.id }))}
      onKeyDown={onKeyDown}
    >
      <div
        className="absolute inset-0 cursor-grab active:cursor-grabbing"
        data-grip="body"
        {...bind('body')}
      />
      <SegmentDrawing
        plan={plan}
        width={width}
        hue={hue}
        label={label}
        covered={plan.overlap * ppf}
        coveredEnd={nextOverlap * ppf}
      />
      <div className="absolute inset-y-0 left-0 w-2 cursor-ew-resize" data-grip="start" {...bind('start')} />
      <div className="absolute inset-y-0 right-0 w-2 cursor-ew-resize" data-grip="end" {...bind('end')} />
    </div>
  );
}

/** The end of a loop also snaps to whole cycles. */
function cycleTargets(plan: SegmentPlan, grip: Grip, targets: readonly number[]): readonly number[] {
  if (grip !== 'end' || !plan.loop) return targets;
  const each = plan.period / plan.time.samplesPerFrame;
  const cycles = Array.from(
    { length: Math.ceil((plan.end - plan.start) / each) + 4 },
    (_, n) => plan.start + Math.round((n + 1) * each),
  );
  return [...targets, ...cycles];
}

/** The lane under the pointer. */
export function laneAt([x, y]: readonly [number, number]): string | null {
  const element = document.elementsFromPoint(x, y).find((e) => e instanceof HTMLElement && e.dataset.lane);
  return element instanceof HTMLElement ? (element.dataset.lane ?? null) : null;
}
