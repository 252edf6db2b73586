import type { Plan, Scene } from '@warper/core';
import { memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { commit } from '../../store/edits';
import { selectedSegments } from '../../store/selection';
import { shownPlan, shownScene } from '../../store/selectors';
import type { EdgeUse } from '../../store/sessionSlice';
import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../store/store';
import { useBoxSelect } from './BoxSelect';
import { HEADER_WIDTH, RULER_HEIGHT, px } from './geometry';
import { GroupBands } from './GroupBands';
import { useGuide } from './guide';
import { Lane } from './Lane';
import { LaneHead } from './LaneHead';
import { Overview } from './Overview';
import type { Row } from './rows';
import { hiddenLanes, sameRows, timelineRows } from './rows';
import { Ruler } from './Ruler';
import { StitchPattern } from './SeamStitch';
import type { Sight } from './useSight';
import { useSight } from './useSight';
import { useWheelZoom } from './useWheelZoom';

/** Frames beyond the end that can be scrolled to and dropped on. */
const ROOM_AFTER = 600;
/** Pixels in which the frames that are drawn go on. */
const STEP = 320;
/** Pixels below the last lane. */
const ROOM_BELOW = 40;

/** Lanes of all characters under a ruler, with the playhead, and the whole piece in a strip below. */
export function Timeline() {
  const scene = useAppSelector(shownScene);
  const { plan } = useAppSelector(shownPlan);
  const ppf = useAppSelector((s) => s.session.pixelsPerFrame);
  const scroller = useRef<HTMLDivElement>(null);
  const lanes = useRef<HTMLDivElement>(null);
  const sight = useSight(scroller);
  useWheelZoom(scroller);
  const frames = Math.max(plan.end + ROOM_AFTER, 1200);
  const rows = useRows(scene, plan);
  const latest = useRef(rows);
  useEffect(() => void (latest.current = rows), [rows]);
  const rowsNow = useCallback(() => latest.current, []);
  const { bind, box } = useBoxSelect(lanes, rows);
  const height = rows.reduce((sum, r) => sum + r.height, 0) + ROOM_BELOW;
  const from = Math.floor(sight.left / ppf);
  const to = Math.ceil(sight.right / ppf);
  return (
    <section aria-label="Timeline" className="relative flex h-full min-h-0 flex-col border-t">
      <StitchPattern />
      <div
        ref={scroller}
        id="timeline-lanes"
        className="relative min-h-0 flex-1 overflow-auto overscroll-contain"
        data-timeline
        style={{ ['--ppf' as string]: ppf }}
      >
        <div className="relative flex w-max min-w-full">
          <div className="sticky left-0 z-20 shrink-0 border-r bg-paper" style={{ width: HEADER_WIDTH }}>
            <div className="sticky top-0 z-30 border-b bg-paper" style={{ height: RULER_HEIGHT }}>
              <Tools />
            </div>
            <div className="relative" style={{ height }}>
              {rows.map((row) => (
                <LaneHead key={row.lane.id} row={row} rowsNow={rowsNow} />
              ))}
              <HiddenLanes scene={scene} top={height - ROOM_BELOW} />
            </div>
          </div>
          <div className="relative" style={{ width: px(frames) }}>
            <div className="sticky top-0 z-[15]">
              <Ruler
                from={from}
                to={Math.min(to, frames)}
                rate={plan.rate}
                markers={scene.markers}
                range={scene.range}
              />
            </div>
            <div ref={lanes} className="relative touch-none select-none" style={{ height }} {...bind()}>
              <RangeShade scene={scene} />
              {/* A press on something of a lane is not one on the free place behind it. */}
              <div
                className="contents"
                onPointerDown={(e) => {
                  if ((e.target as Element).closest('[data-segment], button, [data-stitches]'))
                    e.stopPropagation();
                }}
              >
                <Rows
                  scene={scene}
                  rows={rows}
                  sight={sight}
                  from={from}
                  to={to}
                  ppf={ppf}
                  rate={plan.rate}
                />
                <GroupBands scene={scene} rows={rows} />
              </div>
              {box && (
                <div
                  className="pointer-events-none absolute z-20 border border-ink bg-ink/10"
                  style={{
                    left: px(box.from),
                    width: px(box.to - box.from),
                    top: box.top,
                    height: box.bottom - box.top,
                  }}
                />
              )}
            </div>
            <Guide />
            <Playhead />
          </div>
        </div>
        {rows.length === 0 && (
          <p className="absolute inset-x-0 top-12 text-center text-soft">
            Add a character with the button above the clips, then drag clips here.
          </p>
        )}
      </div>
      <Overview rows={rows} frames={frames} pixelsPerFrame={ppf} />
    </section>
  );
}

/** The rows; those that an edit or a drag does not touch stay the same objects. */
function useRows(scene: Scene, plan: Plan): readonly Row[] {
  const [kept] = useState({ rows: [] as readonly Row[] });
  return useMemo(() => {
    const rows = sameRows(kept.rows, timelineRows(scene, plan));

    kept.rows = rows;
    return rows;
  }, [scene, plan, kept]);
}

interface RowsProps {
  readonly scene: Scene;
  readonly rows: readonly Row[];
  readonly sight: Sight;
  readonly from: number;
  readonly to: number;
  readonly ppf: number;
  readonly rate: Parameters<typeof Lane>[0]['rate'];
}

const NONE: Parameters<typeof Lane>[0]['silent'] = [];

/** The rows in sight, one above, and one below for Tab to go on to. */
const Rows = memo(function Rows({ scene, rows, sight, from, to, ppf, rate }: RowsProps) {
  const inHand = useAppSelector((s) => {
    const { selection } = s.session;
    if (selection.kind === 'seam') return selection.id;
    return selectedSegments(selection, s.scene.document).slice(0, 50).join('|');
  });
  const seen = rows.flatMap((r, i) => (r.top + r.height >= sight.top && r.top <= sight.bottom ? [i] : []));
  const first = Math.max(0, (seen[0] ?? 0) - 1);
  const last = Math.min(rows.length, (seen.at(-1) ?? -1) + 2);
  // Steps of two: at each the same can be made out, and a zoom within one draws nothing anew.
  const scale = 2 ** Math.floor(Math.log2(ppf));
  const step = Math.ceil(STEP / scale);
  const [early, late] = [Math.floor(from / step) * step, Math.ceil(to / step) * step];
  return rows.slice(first, last).map((row) => {
    const performed = new Set(row.segments.map((s) => s.id));
    const silent = row.lane.segments.filter((id) => !performed.has(id));
    return (
      <Lane
        key={row.lane.id}
        row={row}
        rate={rate}
        from={early}
        to={late}
        scale={scale}
        inHand={row.lane.segments.some((s) => inHand.includes(s)) ? inHand : ''}
        silent={silent.length > 0 ? silent.map((id) => scene.segments[id]!) : NONE}
      />
    );
  });
});

const EDGES: readonly (readonly [EdgeUse, string])[] = [
  ['trim', 'edges trim'],
  ['repeat', 'edges repeat'],
  ['stretch', 'edges stretch'],
];

/** Zoom, and what dragging an edge does. */
function Tools() {
  const dispatch = useAppDispatch();
  const ppf = useAppSelector((s) => s.session.pixelsPerFrame);
  const edge = useAppSelector((s) => s.session.edge);
  const end = useAppSelector((s) => shownPlan(s).plan.end);
  const fit = (): void => {
    const width = document.querySelector('[data-timeline]')?.clientWidth ?? 1000;
    dispatch(sessionActions.zoomed((width - HEADER_WIDTH - 24) / Math.max(30, end)));
  };
  const button = 'px-1 text-soft hover:text-ink';
  return (
    <div role="group" aria-label="Zoom and edges" className="flex h-full items-center pl-2 text-[12.5px]">
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
      <button
        type="button"
        className={button}
        aria-label="all of the piece"
        title="Show the whole piece"
        onClick={fit}
      >
        all
      </button>
      <select
        aria-label="What dragging an edge does"
        className="ml-auto w-[74px] bg-transparent text-soft [&>option]:bg-raised"
        value={edge}
        onChange={(e) => dispatch(sessionActions.edged(e.currentTarget.value as EdgeUse))}
      >
        {EDGES.map(([key, text]) => (
          <option key={key} value={key}>
            {text}
          </option>
        ))}
      </select>
    </div>
  );
}

function HiddenLanes({ scene, top }: { scene: Scene; top: number }) {
  const dispatch = useAppDispatch();
  const hidden = hiddenLanes(scene);
  if (hidden.length === 0) return null;
  const show = (): void =>
    void dispatch(
      commit({
        type: 'several',
        label: 'showing hidden lanes',
        edits: hidden.map((l) => ({ type: 'change lane', lane: l.id, values: { hidden: false } })),
      }),
    );
  return (
    <button type="button" className="absolute left-4 py-1 text-soft underline" style={{ top }} onClick={show}>
      {hidden.length} hidden: show
    </button>
  );
}

function RangeShade({ scene }: { scene: Scene }) {
  if (!scene.range) return null;
  const { from, to } = scene.range;
  const shade = 'pointer-events-none absolute inset-y-0 bg-ink/[0.04]';
  return (
    <>
      <div className={shade} style={{ left: 0, width: px(from) }} />
      <div className={shade} style={{ left: px(to), right: 0 }} />
    </>
  );
}

function Guide() {
  const frame = useGuide();
  if (frame === null) return null;
  return (
    <div
      className="pointer-events-none absolute inset-y-0 z-10 border-l border-dashed border-ink"
      style={{ left: px(frame) }}
    />
  );
}

function Playhead() {
  const frame = useAppSelector((s) => Math.floor(s.session.frame + 1e-6));
  return (
    <svg
      className="pointer-events-none absolute inset-y-0 z-[16] h-full overflow-visible"
      style={{ left: px(frame) }}
      width={1}
      aria-hidden
    >
      <line y1={14} y2="100%" stroke="var(--signal)" strokeWidth={1.6} />
      <path d="M-6,12h12v8l-6,7l-6,-7z" fill="var(--signal)" />
    </svg>
  );
}
