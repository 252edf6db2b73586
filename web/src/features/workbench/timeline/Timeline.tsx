import { defined } from '@warper/core';
import type { Plan, Scene } from '@warper/core';
import { memo, useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { useStore } from 'react-redux';
import { commit } from '../../../store/edits';
import { isEqualSelection, selectedSegments } from '../../../store/selection';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import type { EdgeUse } from '../../../store/sessionSlice';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { HEADER_WIDTH, RULER_HEIGHT } from './geometry';
import { GroupBands } from './GroupBands';
import { useHandMarks } from './pointer/handMarks';
import { useHands } from './pointer/useHands';
import { Lane } from './Lane';
import { LaneHead } from './LaneHead';
import { Overview } from './Overview';
import type { Row } from './rows';
import { hiddenLanes, sameRows, silentSegments, timelineRows } from './rows';
import { Ruler } from './Ruler';
import type { Sight } from './useViewport';
import { useViewport } from './useViewport';
import { useShownFrame } from '../useShownFrame';
import { Button } from '../../../ui/controls';
import { Select } from '../../../ui/Select';

/** Frames beyond the end that can be scrolled to and dropped on. */
const ROOM_AFTER = 600;
/** Pixels in which the frames that can be reached go on. */
const STEP = 320;
/** Pixels below the last lane. */
const ROOM_BELOW = 40;

/** Lanes of all characters under a ruler, with the playhead, and the whole piece in a strip below. */
export function Timeline() {
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  const scroller = useRef<HTMLDivElement>(null);
  const content = useRef<HTMLDivElement>(null);
  const lanes = useRef<HTMLDivElement>(null);
  const frames = Math.max(plan.end + ROOM_AFTER, 1200);
  const [elements] = useState({ scroller, content });
  const sight = useViewport(elements, frames);
  const { ppf } = sight;
  const rows = useRows(scene, plan);
  const latest = useRef(rows);
  useEffect(() => void (latest.current = rows), [rows]);
  const rowsNow = useCallback(() => latest.current, []);
  const hands = useHands(lanes, rowsNow);
  const height = rows.reduce((sum, r) => sum + r.height, 0) + ROOM_BELOW;
  const seen = rowsInSight(rows, sight);
  return (
    <section aria-label="Timeline" className="relative flex h-full min-h-0 flex-col border-t">
      <div
        ref={scroller}
        id="timeline-lanes"
        className="relative min-h-0 flex-1 overflow-auto overscroll-contain"
        data-timeline
      >
        <div className="relative flex w-max min-w-full">
          <div className="sticky left-0 z-20 shrink-0 border-r bg-paper" style={{ width: HEADER_WIDTH }}>
            <div className="sticky top-0 z-30 border-b bg-paper" style={{ height: RULER_HEIGHT }}>
              <Tools />
            </div>
            <div className="relative" style={{ height }}>
              {seen.map((row) => (
                <LaneHead key={row.lane.id} row={row} rowsNow={rowsNow} />
              ))}
              <HiddenLanes scene={scene} top={height - ROOM_BELOW} />
            </div>
          </div>
          <div ref={content} className="relative grow">
            <div className="sticky top-0 z-[15]">
              <Ruler
                left={sight.left}
                right={sight.right}
                ppf={ppf}
                rate={plan.rate}
                markers={scene.markers}
                range={scene.range}
              />
            </div>
            <div
              ref={lanes}
              className="relative touch-none overflow-clip select-none"
              style={{ height }}
              {...hands}
            >
              <RangeShade scene={scene} ppf={ppf} />
              <Rows scene={scene} rows={seen} sight={sight} rate={plan.rate} />
              <GroupBands scene={scene} rows={rows} ppf={ppf} />
              <HandMarks ppf={ppf} />
            </div>
            <Guide ppf={ppf} />
            <Playhead ppf={ppf} />
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

/** Whether some of a row is in sight. */
const inSight = (row: Row, { top, bottom }: Sight): boolean =>
  row.top + row.height >= top && row.top <= bottom;

/** The rows in sight, one above, and one below for Tab to go on to. */
function rowsInSight(rows: readonly Row[], sight: Sight): readonly Row[] {
  const seen = rows.flatMap((r, i) => (inSight(r, sight) ? [i] : []));
  return rows.slice(Math.max(0, (seen[0] ?? 0) - 1), (seen.at(-1) ?? -1) + 2);
}

interface RowsProps {
  readonly scene: Scene;
  readonly rows: readonly Row[];
  readonly sight: Sight;
  readonly rate: Plan['rate'];
}

const Rows = memo(function Rows({ scene, rows, sight, rate }: RowsProps) {
  const selection = useAppSelector((s) => s.session.selection);
  const document = useAppSelector((s) => s.scene.document);
  const { ppf, left, right } = sight;
  const chosen = new Set(selectedSegments(selection, document));
  const selected = useKept(rows.map((row) => row.lane.segments.filter((s) => chosen.has(s))));
  const seam = selection.kind === 'seam' ? selection.id : '';
  // Steps of two: within one a zoom leaves what can be reached as it is.
  const scale = 2 ** Math.floor(Math.log2(ppf));
  const step = Math.ceil(STEP / scale);
  // What can be reached may come a moment after what is drawn.
  const from = Math.floor(left / ppf / step) * step;
  const to = Math.ceil(right / ppf / step) * step;
  const reach = useDeferredValue(useMemo(() => ({ from, to, scale }), [from, to, scale]));
  const silent = useMemo(() => rows.map((row) => silentSegments(scene, row)), [scene, rows]);
  return rows.map((row, i) => (
    <Lane
      key={row.lane.id}
      row={row}
      rate={rate}
      ppf={ppf}
      left={left}
      right={inSight(row, sight) ? right : left}
      {...reach}
      selected={defined(selected[i])}
      seam={row.lane.segments.includes(seam) ? seam : ''}
      silent={defined(silent[i])}
    />
  ));
});

/** Lists of ids that stay the very ones while the same ids are in them, so that rows of which nothing changes are not drawn. */
function useKept(lists: readonly (readonly string[])[]): readonly (readonly string[])[] {
  const [kept, setKept] = useState(lists);
  const next = lists.map((list, i) => (kept[i] && isEqualSelection(kept[i], list) ? kept[i] : list));
  const changed = next.length !== kept.length || next.some((list, i) => list !== kept[i]);
  if (changed) setKept(next);
  return changed ? next : kept;
}

const EDGES: readonly (readonly [EdgeUse, string])[] = [
  ['trim', 'Edges: Trim'],
  ['repeat', 'Edges: Loop'],
  ['stretch', 'Edges: Stretch'],
];

/** Zoom, and what dragging an edge does. */
function Tools() {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const zoom = (by: number): void =>
    void dispatch(sessionActions.zoomed(store.getState().session.pixelsPerFrame * by));
  const edge = useAppSelector((s) => s.session.edge);
  const fit = (): void => {
    const width = document.querySelector('[data-timeline]')?.clientWidth ?? 1000;
    const { end } = selectPreviewPlan(store.getState()).plan;
    dispatch(sessionActions.zoomed((width - HEADER_WIDTH - 24) / Math.max(30, end)));
  };
  const button = 'px-1 text-soft hover:text-ink';
  return (
    <div role="group" aria-label="Zoom and edges" className="flex h-full items-center pl-1 text-note">
      <Button look="bare" className={button} aria-label="Zoom out" onClick={() => zoom(1 / 1.4)}>
        −
      </Button>
      <Button look="bare" className={button} aria-label="Zoom in" onClick={() => zoom(1.4)}>
        +
      </Button>
      <Button
        look="bare"
        className={button}
        aria-label="all of the piece"
        title="Show the whole piece"
        onClick={fit}
      >
        all
      </Button>
      <Select
        label="Drag edges to"
        className="ml-auto border-b-0! pr-1.5 text-note text-soft"
        value={edge}
        options={EDGES}
        onChange={(use) => dispatch(sessionActions.edged(use))}
      />
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
    <Button look="bare" className="absolute left-4 py-1 text-soft underline" style={{ top }} onClick={show}>
      {hidden.length} hidden: show
    </Button>
  );
}

function RangeShade({ scene, ppf }: { scene: Scene; ppf: number }) {
  if (!scene.range) return null;
  const { from, to } = scene.range;
  const shade = 'pointer-events-none absolute inset-y-0 bg-ink/[0.04]';
  return (
    <>
      <div className={shade} style={{ left: 0, width: from * ppf }} />
      <div className={shade} style={{ left: to * ppf, right: 0 }} />
    </>
  );
}

/** The box that is drawn to select, and where a drag asks for what cannot be. */
function HandMarks({ ppf }: { ppf: number }) {
  const { box, refused } = useHandMarks();
  const areas = [
    { area: box, mark: 'box', look: 'border border-ink bg-ink/10' },
    { area: refused, mark: 'refused', look: 'rounded-[4px] border border-dashed border-bad' },
  ];
  return areas.map(({ area, mark, look }) => {
    if (!area) return null;
    const { from, to, top, bottom } = area;
    const style = { left: from * ppf, width: (to - from) * ppf, top, height: bottom - top };
    return (
      <div
        key={mark}
        data-hand-mark={mark}
        className={`pointer-events-none absolute z-20 ${look}`}
        style={style}
      />
    );
  });
}

function Guide({ ppf }: { ppf: number }) {
  const { guide } = useHandMarks();
  if (guide === null) return null;
  return (
    <div
      className="pointer-events-none absolute inset-y-0 z-10 border-l border-dashed border-ink"
      style={{ left: guide * ppf }}
    />
  );
}

function Playhead({ ppf }: { ppf: number }) {
  const line = useRef<SVGSVGElement>(null);
  useShownFrame((frame) => {
    defined(line.current).style.transform = `translateX(${frame * ppf}px)`;
  });
  return (
    <svg
      ref={line}
      className="pointer-events-none absolute inset-y-0 left-0 z-[16] h-full overflow-visible"
      width={1}
      aria-hidden
    >
      <line y1={14} y2="100%" stroke="var(--signal)" strokeWidth={1.6} />
      <path d="M-6,12h12v8l-6,7l-6,-7z" fill="var(--signal)" />
    </svg>
  );
}
