import type { Edit, SegmentPlan } from '@warper/core';
import { memo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { useStore } from 'react-redux';
import { commit, preview } from '../../store/edits';
import { selectedSegments, toggled } from '../../store/selection';
import { sessionActions } from '../../store/sessionSlice';
import type { RootState } from '../../store/store';
import { useAppDispatch, useAppSelector } from '../../store/store';
import type { Target } from './geometry';
import { px, snap } from './geometry';
import { showGuide } from './guide';
import { SegmentDrawing } from './SegmentDrawing';
import { segmentKey } from './segmentKeys';
import { cycleTargets, snapTargets } from './snapping';
import type { TimelineDrag } from './useTimelineDrag';
import { useTimelineDrag } from './useTimelineDrag';

interface Props {
  readonly plan: SegmentPlan;
  readonly lane: string;
  readonly hue: number;
  readonly top: number;
  readonly height: number;
  /** Frames that the next segment covers. */
  readonly nextOverlap: number;
  readonly detailed: boolean;
  readonly labelled: boolean;
}

type Grip = 'body' | 'start' | 'end';

/** Where a drag began, and what it may snap to. */
interface Origin {
  readonly start: number;
  readonly end: number;
  readonly targets: readonly Target[];
  /** The segments that move with it, itself among them. */
  readonly moving: readonly string[];
}

/** Frames to either side of a segment whose steps it snaps to. */
const NEAR = 600;

/** One segment on a lane: select, move, trim, repeat, stretch or slip by pointer and by keys. */
export const SegmentBlock = memo(function SegmentBlock(props: Props) {
  const { plan, lane, hue, top, height, nextOverlap, detailed, labelled } = props;
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const selected = useAppSelector(
    (s) =>
      s.session.selection.kind !== 'scene' &&
      (s.session.selection.id === plan.id
        ? s.session.selection.kind === 'segment'
        : selectedSegments(s.session.selection, s.scene.document).includes(plan.id)),
  );
  const origin = useRef<Origin>({ start: 0, end: 0, targets: [], moving: [] });
  const pressed = useRef(false);
  const [hovered, setHovered] = useState(false);
  // Where the pointer asks for, while that cannot be.
  const [refused, setRefused] = useState<{ start: number; end: number } | null>(null);
  const times = plan.loop && plan.repeat !== 1 ? ` ×${Number(plan.repeat.toFixed(2))}` : '';
  const label = `${plan.name}${times}`;

  const begin = (grip: Grip): void => {
    const state = store.getState();
    const chosen = selectedSegments(state.session.selection, state.scene.document);
    const together = grip === 'body' && chosen.length > 1 && chosen.includes(plan.id);
    const moving = together ? chosen : [plan.id];
    const near = { from: plan.start - NEAR, to: plan.end + NEAR };
    const targets = snapTargets(state, new Set(moving), near);
    const repeats = grip !== 'body' && plan.loop && state.session.edge !== 'stretch';
    origin.current = {
      start: plan.start,
      end: plan.end,
      moving,
      targets: repeats ? [...targets, ...cycleTargets(plan, grip, NEAR)] : targets,
    };
    if (!together) dispatch(sessionActions.selected({ kind: 'segment', id: plan.id }));
  };

  const onDrag = (drag: TimelineDrag<Grip>): void => {
    if (drag.first) begin(drag.arg);
    if (drag.canceled) {
      setRefused(null);
      showGuide(null);
      return void dispatch(preview(null));
    }
    const { edit, wanted } = dragged(drag, plan, lane, origin.current, store.getState().session);
    if (drag.last) {
      setRefused(null);
      showGuide(null);
      dispatch(commit(edit));
    } else {
      dispatch(preview(edit));
      setRefused(wanted);
    }
  };
  const onTap = (event: PointerEvent): void => {
    const { session, scene } = store.getState();
    const several = event.shiftKey || event.ctrlKey || event.metaKey;
    dispatch(
      sessionActions.selected(
        several ? toggled(session.selection, plan.id, scene.document) : { kind: 'segment', id: plan.id },
      ),
    );
  };
  // Grips stand only where the pointer is: hundreds of them would cost more than all the rest.
  const armed = hovered || selected;
  const off = refused && (refused.start !== plan.start || refused.end !== plan.end) ? refused : null;

  return (
    <>
      {off && (
        <div
          className="pointer-events-none absolute rounded-[4px] border border-dashed border-bad"
          style={{ left: px(off.start), top, width: px(off.end - off.start), height }}
        />
      )}
      <div
        role="button"
        tabIndex={0}
        data-segment={plan.id}
        title={`${label}${plan.mapped ? ' mapped' : ''}, frames ${plan.start} to ${plan.end}`}
        aria-label={`${label}${plan.mapped ? ' mapped' : ''}, frames ${plan.start} to ${plan.end}`}
        aria-pressed={selected}
        onPointerEnter={() => flushSync(() => setHovered(true))}
        onPointerLeave={() => !pressed.current && setHovered(false)}
        className="absolute touch-none rounded-[4px] outline-offset-2"
        style={{
          left: px(plan.start),
          top,
          width: px(plan.end - plan.start),
          minWidth: 2,
          height,
          background: `color-mix(in srgb, var(--hue-${hue}) 15%, transparent)`,
          boxShadow: selected ? 'inset 0 0 0 2px var(--ink)' : `inset 0 0 0 1px var(--hue-${hue})`,
        }}
        // A press decides for itself what is chosen: it may be one of several.
        onPointerDownCapture={() => (pressed.current = true)}
        onPointerUpCapture={() => (pressed.current = false)}
        onPointerCancelCapture={() => (pressed.current = false)}
        onFocus={() => {
          if (!pressed.current && !selected)
            dispatch(sessionActions.selected({ kind: 'segment', id: plan.id }));
        }}
        onKeyDown={(e) => dispatch(segmentKey(e, plan, lane))}
      >
        {!armed && detailed && <Outline />}
        <SegmentDrawing
          plan={plan}
          hue={hue}
          height={height}
          label={label}
          covered={plan.overlap}
          coveredEnd={nextOverlap}
          detailed={detailed}
          labelled={labelled}
        />
        {armed && <Grips refused={off !== null} onDrag={onDrag} onTap={onTap} />}
      </div>
    </>
  );
});

/** The places of the grips before the pointer is there. */
const Outline = () => (
  <>
    <div className="absolute inset-0" data-grip="body" />
    <div className="absolute inset-y-0 left-0 w-2" data-grip="start" />
    <div className="absolute inset-y-0 right-0 w-2" data-grip="end" />
  </>
);

interface GripProps {
  readonly refused: boolean;
  readonly onDrag: (drag: TimelineDrag<Grip>) => void;
  readonly onTap: (event: PointerEvent) => void;
}

/** Where a segment is taken: its body and its two edges. */
function Grips({ refused, onDrag, onTap }: GripProps) {
  const bind = useTimelineDrag<Grip>(onDrag, onTap);
  const edge = 'absolute inset-y-0 w-2 cursor-ew-resize';
  return (
    <>
      <div
        className={`absolute inset-0 ${refused ? 'cursor-not-allowed' : 'cursor-grab active:cursor-grabbing'}`}
        data-grip="body"
        {...bind('body')}
      />
      <div className={`${edge} left-0`} data-grip="start" {...bind('start')} />
      <div className={`${edge} right-0`} data-grip="end" {...bind('end')} />
    </>
  );
}

/** The edit that a drag asks for, and where that would put the segment if nothing were in its way. */
function dragged(
  drag: TimelineDrag<Grip>,
  plan: SegmentPlan,
  lane: string,
  { start, end, targets, moving }: Origin,
  session: RootState['session'],
): { edit: Edit; wanted: { start: number; end: number } | null } {
  const { pixelsPerFrame } = session;
  const near = (frame: number): number | null =>
    drag.event.altKey ? null : snap(frame, targets, pixelsPerFrame);
  if (drag.arg !== 'body') {
    const asked = (drag.arg === 'start' ? start : end) + drag.frames;
    const met = near(asked);
    showGuide(met);
    const frame = met ?? Math.round(asked);
    const type = session.edge;
    const wanted = drag.arg === 'start' ? { start: frame, end } : { start, end: frame };
    return { edit: { type, segment: plan.id, edge: drag.arg, frame }, wanted };
  }
  if (drag.event.shiftKey && moving.length === 1) {
    showGuide(null);
    const samples = -Math.round(drag.frames * plan.time.samplesPerFrame);
    return { edit: { type: 'slip', segment: plan.id, samples }, wanted: null };
  }
  const [head, tail] = [near(start + drag.frames), near(end + drag.frames)];
  const free = Math.round(drag.frames);
  const byHead = head === null ? null : head - start;
  const byTail = tail === null ? null : tail - end;
  const apart = (by: number | null): number => (by === null ? Infinity : Math.abs(by - drag.frames));
  const by = (apart(byHead) <= apart(byTail) ? byHead : byTail) ?? free;
  showGuide(by === byHead ? head : by === byTail ? tail : null);
  const to = laneAt(drag.xy) ?? lane;
  const wanted = { start: start + by, end: end + by };
  return moving.length > 1
    ? { edit: { type: 'move several', segments: moving, frames: by, lane: to }, wanted }
    : { edit: { type: 'move', segment: plan.id, start: start + by, lane: to }, wanted };
}

/** The lane under the pointer. */
export function laneAt([x, y]: readonly [number, number]): string | null {
  const element = document.elementsFromPoint(x, y).find((e) => e instanceof HTMLElement && e.dataset.lane);
  return element instanceof HTMLElement ? (element.dataset.lane ?? null) : null;
}
