import type { Edit } from '@warper/core';
import type { RefObject } from 'react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { HEADER_WIDTH, RULER_HEIGHT } from '../timeline/geometry';
import { Guide, Playhead, RangeShade } from '../timeline/overlays';
import { Ruler } from '../timeline/Ruler';
import { TimelineTools } from '../timeline/TimelineTools';
import type { Sight } from '../timeline/useViewport';
import { useViewport } from '../timeline/useViewport';
import { BelowSwitch } from '../BelowSwitch';
import { CurveCanvas } from './CurveCanvas';
import { removeChosen } from './curveEdits';
import { CurveKeys } from './CurveKeys';
import type { ChosenOnTracks, CurveSource, Track } from './curveSource';
import { CurveTools } from './CurveTools';
import { handlesOf } from './hitCurves';
import type { Scale } from './scale';
import { fittedScale, valueTicks, yOf, zoomedScale } from './scale';
import { TrackList } from './TrackList';
import { useAreaHeight } from './useAreaHeight';
import { shifted, useCurveHands } from './useCurveHands';
import { useCurveSource } from './useCurveSource';
import { useKeyClipboard } from './useKeyClipboard';

const FRAMES_AFTER = 600;
const NOTHING: ChosenOnTracks = new Map();

/** The curves of the layer or segment in hand, over the same frames as the lanes. */
export function CurvesPanel() {
  const inHand = useCurveSource();
  return inHand ? (
    <OpenCurves key={inHand.id} source={inHand.source} />
  ) : (
    <section aria-label="Curves" className="h-full border-t p-6 text-soft">
      Select a layer for the curves of its keys and its weight, or a segment for its speed curve and its
      crossfade.
    </section>
  );
}

/** Curves without keys are shown only when they are asked for, where others have some; those of dials in any case. */
function hiddenAtFirst(tracks: readonly Track[]): ReadonlySet<string> {
  const empty = tracks.filter((t) => t.curve.frames.length === 0);
  const hidden = empty.length === tracks.length ? empty.filter((t) => t.id.startsWith('dial ')) : empty;
  return new Set(hidden.map((t) => t.id));
}

function OpenCurves({ source }: { readonly source: CurveSource }) {
  const dispatch = useAppDispatch();
  const [hidden, setHidden] = useState(() => hiddenAtFirst(source.tracks));
  const [chosen, setChosen] = useState<ChosenOnTracks>(NOTHING);
  const tracks = useMemo(() => source.tracks.filter((t) => !hidden.has(t.id)), [source, hidden]);
  const onEdit = (edit: Edit | null, next?: ChosenOnTracks): void => {
    if (edit && !dispatch(commit(edit))) return;
    if (edit && next) setChosen(next);
  };
  return (
    <section aria-label={`Curves of ${source.name}`} className="flex h-full min-h-0 flex-col border-t">
      <CurveArea {...{ source, tracks, hidden, chosen, onEdit }} onHide={setHidden} onChoose={setChosen} />
      <div className="flex h-[25px] shrink-0 items-center border-t">
        <BelowSwitch />
      </div>
    </section>
  );
}

interface AreaProps {
  readonly source: CurveSource;
  readonly tracks: readonly Track[];
  readonly hidden: ReadonlySet<string>;
  readonly chosen: ChosenOnTracks;
  readonly onHide: (hidden: ReadonlySet<string>) => void;
  readonly onChoose: (chosen: ChosenOnTracks) => void;
  readonly onEdit: (edit: Edit | null, chosen?: ChosenOnTracks) => void;
}

/** The tools, the names of the curves, and the curves under a ruler. */
function CurveArea(props: AreaProps) {
  const { source, tracks, hidden, chosen, onHide, onEdit } = props;
  const { plan } = useAppSelector(selectPreviewPlan);
  const scroller = useRef<HTMLDivElement>(null);
  const content = useRef<HTMLDivElement>(null);
  const area = useRef<HTMLDivElement>(null);
  const [elements] = useState({ scroller, content });
  const sight = useViewport(elements, Math.max(plan.end + FRAMES_AFTER, 1200));
  const { scale, setScale, fit } = useScale(area, tracks, plan.end);
  const fitFrames = useFitFrames(scroller, tracks);
  const fitAll = (): void => {
    fit();
    fitFrames();
  };
  return (
    <>
      <CurveTools {...{ source, tracks, chosen, onEdit }} onFit={fitAll} />
      <div ref={scroller} data-timeline className="relative min-h-0 flex-1 overflow-x-auto overflow-y-hidden">
        <div className="relative flex h-full w-max min-w-full">
          <div
            className="sticky left-0 z-20 flex h-full shrink-0 flex-col border-r bg-paper"
            style={{ width: HEADER_WIDTH }}
          >
            <div className="shrink-0 border-b" style={{ height: RULER_HEIGHT }}>
              <TimelineTools />
            </div>
            <div className="min-h-0 flex-1">
              <TrackList tracks={source.tracks} {...{ hidden, chosen, onHide }} />
            </div>
          </div>
          <div ref={content} className="relative flex h-full grow flex-col">
            <CurveSheet {...props} {...{ area, sight, scale }} onScale={setScale} />
          </div>
        </div>
      </div>
    </>
  );
}

interface SheetProps extends Pick<AreaProps, 'source' | 'tracks' | 'chosen' | 'onChoose' | 'onEdit'> {
  readonly area: RefObject<HTMLDivElement | null>;
  readonly sight: Sight;
  readonly scale: Scale;
  readonly onScale: (scale: Scale) => void;
}

/** What is scrolled: the ruler, and under it the curves with what lies over them. */
function CurveSheet({ area, sight, scale, onScale, source, tracks, chosen, onChoose, onEdit }: SheetProps) {
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  const { ppf, left, right } = sight;
  const handles = useMemo(
    () => (source.hasSlopes ? handlesOf(tracks, chosen, source.keysAt, scale, ppf) : []),
    [source, tracks, chosen, scale, ppf],
  );
  const table = { area, source, tracks, handles, chosen, scale, ppf, onChoose, onScale };
  const { handlers, box } = useCurveHands(table);
  const clipboard = useKeyClipboard(source, chosen, onEdit);
  const choose = (track: string, frame: number): void => {
    if (!chosen.get(track)?.has(frame)) onChoose(new Map([[track, new Set([frame])]]));
  };
  return (
    <>
      <Ruler
        {...{ left, right, ppf }}
        rate={plan.rate}
        markers={scene.markers}
        range={scene.range}
        end={plan.end}
      />
      <div
        ref={area}
        data-curves
        className="relative min-h-0 flex-1 touch-none overflow-clip select-none"
        {...handlers}
      >
        <RangeShade scene={scene} ppf={ppf} />
        <CurveCanvas {...{ tracks, chosen, handles, scale, sight }} />
        <ValueNumbers scale={scale} />
        <CurveKeys
          {...{ tracks, chosen, scale, ppf }}
          from={left / ppf}
          to={right / ppf}
          onChoose={choose}
          onMove={(frames, value) => onEdit(source.move(chosen, frames, value), shifted(chosen, frames))}
          onRemove={() => onEdit(removeChosen(source, chosen), NOTHING)}
          {...clipboard}
        />
        {box && <Box from={box[0]} to={box[1]} />}
      </div>
      <Guide ppf={ppf} />
      <Playhead ppf={ppf} />
    </>
  );
}

/** The frames from the first to the last key of some curves; null without keys. */
function keyedFrames(tracks: readonly Track[]): readonly [number, number] | null {
  const keyed = tracks.map((t) => t.curve.frames).filter((frames) => frames.length > 0);
  if (keyed.length === 0) return null;
  return [Math.min(...keyed.map((f) => f[0] ?? 0)), Math.max(...keyed.map((f) => f.at(-1) ?? 0))];
}

/** Brings all keys into sight. */
function useFitFrames(scroller: RefObject<HTMLDivElement | null>, tracks: readonly Track[]): () => void {
  const dispatch = useAppDispatch();
  return () => {
    const element = scroller.current;
    const span = keyedFrames(tracks);
    if (!element || !span) return;
    const width = element.clientWidth - HEADER_WIDTH;
    const frames = Math.max(10, (span[1] - span[0]) * 1.2);
    dispatch(sessionActions.zoomed(width / frames));
    // The zoom keeps the playhead where it is; the keys are brought to the middle afterwards.
    requestAnimationFrame(() => {
      element.scrollLeft = ((span[0] + span[1]) / 2 - frames / 2) * (width / frames);
    });
  };
}

/** The values in sight: fitted to the curves at first, zoomed at the pointer with the wheel and Alt. */
function useScale(area: RefObject<HTMLDivElement | null>, tracks: readonly Track[], end: number) {
  const height = useAreaHeight(area);
  const fitted = (): Pick<Scale, 'top' | 'bottom'> => {
    const [from, to] = keyedFrames(tracks) ?? [0, end];
    return fittedScale(
      tracks.map((t) => t.curve),
      from,
      Math.max(to, from + 1),
    );
  };
  const [range, setRange] = useState(fitted);
  const scale = useMemo(() => ({ ...range, height }), [range, height]);
  const latest = useRef(scale);
  useEffect(() => void (latest.current = scale), [scale]);
  useEffect(() => {
    const element = area.current;
    if (!element) return;
    const onWheel = (event: WheelEvent): void => {
      if (!event.altKey) return;
      event.preventDefault();
      event.stopPropagation();
      const y = event.clientY - element.getBoundingClientRect().top;
      setRange(zoomedScale(latest.current, y, Math.exp(event.deltaY * 0.0015)));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [area]);
  return { scale, setScale: setRange, fit: () => setRange(fitted()) };
}

/** The numbers of the lines across, at the left of what is in sight. */
function ValueNumbers({ scale }: { readonly scale: Scale }) {
  return (
    <div aria-hidden className="pointer-events-none sticky z-10 w-0" style={{ left: HEADER_WIDTH + 4 }}>
      {valueTicks(scale).map((value) => (
        <span
          key={value}
          className="absolute -translate-y-full rounded-sm bg-paper/80 px-0.5 text-tick text-soft"
          style={{ top: yOf(scale, value) }}
        >
          {value}
        </span>
      ))}
    </div>
  );
}

function Box({
  from,
  to,
}: {
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
}) {
  const [left, top] = [Math.min(from[0], to[0]), Math.min(from[1], to[1])];
  return (
    <div
      className="pointer-events-none absolute border border-ink bg-ink/10"
      style={{ left, top, width: Math.abs(to[0] - from[0]), height: Math.abs(to[1] - from[1]) }}
    />
  );
}
