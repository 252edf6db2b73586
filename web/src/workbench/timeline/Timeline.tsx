import type { CharacterPlan, Scene } from '@warper/core';
import { bodyLane, framesPerSecond } from '@warper/core';
import { useEffect, useMemo, useRef } from 'react';
import { shownPlan, shownScene } from '../../store/selectors';
import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { HEADER_WIDTH, LANE_HEIGHT, RULER_HEIGHT } from './geometry';
import { Lane } from './Lane';
import { Ruler } from './Ruler';

/** Frames beyond the end that can be scrolled to and dropped on. */
const ROOM_AFTER = 600;

/** Lanes of all characters under a ruler, with the playhead. */
export function Timeline() {
  const scene = useAppSelector(shownScene);
  const { plan } = useAppSelector(shownPlan);
  const ppf = useAppSelector((s) => s.session.pixelsPerFrame);
  const scroller = useRef<HTMLDivElement>(null);
  const fps = framesPerSecond(plan.rate);
  const frames = Math.max(plan.end + ROOM_AFTER, 1200);
  const targets = useMemo(
    () => [0, ...plan.characters.flatMap((c) => c.segments.flatMap((s) => [s.start, s.end]))],
    [plan],
  );
  useWheelZoom(scroller);
  const rows = laneRows(scene, plan.characters);
  return (
    <section aria-label="Timeline" className="relative flex h-full min-h-0 flex-col border-t">
      <div ref={scroller} className="relative min-h-0 flex-1 overflow-auto" data-timeline>
        <div className="relative flex w-max min-w-full">
          <div className="sticky left-0 z-20 shrink-0 border-r bg-paper" style={{ width: HEADER_WIDTH }}>
            <div className="sticky top-0 z-10 border-b bg-paper" style={{ height: RULER_HEIGHT }}>
              <ZoomButtons />
            </div>
            {rows.map(({ lane, plan: c }) => (
              <LaneHead key={lane} plan={c} />
            ))}
          </div>
          <div className="relative" style={{ width: frames * ppf }}>
            <div className="sticky top-0 z-10 bg-paper">
              <Ruler frames={frames} framesPerSecond={fps} />
            </div>
            {rows.map(({ lane, plan: c }) => (
              <Lane key={lane} lane={lane} plan={c} rate={plan.rate} targets={targets} />
            ))}
            <Playhead height={RULER_HEIGHT + rows.length * LANE_HEIGHT} />
          </div>
        </div>
        {rows.length === 0 && (
          <p className="absolute inset-x-0 top-12 text-center text-soft">
            Add a character with the button above the clips, then drag clips here.
          </p>
        )}
      </div>
    </section>
  );
}

function laneRows(
  scene: Scene,
  characters: readonly CharacterPlan[],
): { lane: string; plan: CharacterPlan }[] {
  return characters.flatMap((plan) => {
    const lane = bodyLane(scene, plan.character.id);
    return lane ? [{ lane: lane.id, plan }] : [];
  });
}

function LaneHead({ plan }: { plan: CharacterPlan }) {
  const dispatch = useAppDispatch();
  const { id, name, hue } = plan.character;
  const selected = useAppSelector(
    (s) => s.session.selection.kind === 'character' && s.session.selection.id === id,
  );
  return (
    <button
      type="button"
      className={`relative block w-full border-b pl-4 text-left ${selected ? 'bg-raised' : ''}`}
      style={{ height: LANE_HEIGHT }}
      aria-pressed={selected}
      onClick={() => dispatch(sessionActions.selected({ kind: 'character', id }))}
    >
      <span className="absolute inset-y-2 left-0 w-1" style={{ background: `var(--hue-${hue})` }} />
      <span className="block font-semibold">{name}</span>
      <span className="block text-soft">
        {plan.segments.length === 0
          ? 'no segments yet'
          : `${plan.segments.length} segments, ${plan.end - plan.start} f`}
      </span>
    </button>
  );
}

function ZoomButtons() {
  const dispatch = useAppDispatch();
  const ppf = useAppSelector((s) => s.session.pixelsPerFrame);
  const { plan } = useAppSelector(shownPlan);
  const fit = (): void => {
    const width = document.querySelector('[data-timeline]')?.clientWidth ?? 1000;
    dispatch(sessionActions.zoomed((width - HEADER_WIDTH - 24) / Math.max(30, plan.end)));
  };
  const button = 'px-1.5 text-soft hover:text-ink';
  return (
    <div role="group" aria-label="Zoom" className="flex h-full items-center gap-1 pl-3">
      <button
        type="button"
        className={button}
        aria-label="Zoom out"
        onClick={() => dispatch(sessionActions.zoomed(ppf / 1.4))}
      >
        −
      </button>
      <button
        type="button"
        className={button}
        aria-label="Zoom in"
        onClick={() => dispatch(sessionActions.zoomed(ppf * 1.4))}
      >
        +
      </button>
      <button type="button" className={button} onClick={fit}>
        whole piece
      </button>
    </div>
  );
}

function Playhead({ height }: { height: number }) {
  const frame = useAppSelector((s) => s.session.frame);
  const ppf = useAppSelector((s) => s.session.pixelsPerFrame);
  return (
    <svg
      className="pointer-events-none absolute top-0 z-10 overflow-visible"
      style={{ left: Math.floor(frame + 1e-6) * ppf, height: '100%' }}
      width={1}
      height={height}
      aria-hidden
    >
      <line y1={14} y2="100%" stroke="var(--signal)" strokeWidth={1.6} />
      <path d="M-6,12h12v8l-6,7l-6,-7z" fill="var(--signal)" />
    </svg>
  );
}

/** The wheel zooms at the pointer; with Shift, or sideways, it scrolls. */
function useWheelZoom(scroller: React.RefObject<HTMLDivElement | null>): void {
  const dispatch = useAppDispatch();
  const ppf = useAppSelector((s) => s.session.pixelsPerFrame);
  useEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const onWheel = (event: WheelEvent): void => {
      if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) return;
      const tall = element.scrollHeight > element.clientHeight + 1;
      if (tall && !event.ctrlKey && !event.altKey && event.offsetX < 0) return;
      event.preventDefault();
      const next = ppf * Math.exp(-event.deltaY * 0.0015);
      const x = event.clientX - element.getBoundingClientRect().left - HEADER_WIDTH;
      const at = (element.scrollLeft + x) / ppf;
      dispatch(sessionActions.zoomed(next));
      requestAnimationFrame(() => (element.scrollLeft = at * next - x));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [dispatch, ppf, scroller]);
}
