import type { Plan, Scene } from '@warper/core';
import type { RefObject } from 'react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { clipPath } from '../../../parts/clipPath';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import { useAppSelector } from '../../../store/store';
import { AlternateSheets, SheetNames } from './AlternateSheets';
import { HEADER_WIDTH, RULER_HEIGHT, SHOT_ROW } from './geometry';
import { GroupBands } from './GroupBands';
import { HiddenLanes } from './HiddenLanes';
import { LaneHead } from './LaneHead';
import { LaneMenu } from './LaneMenu';
import { Lanes } from './Lanes';
import { LinkThreads } from './LinkThreads';
import { Guide, HandMarks, Playhead, RangeShade } from './overlays';
import { NewLayerPlaces } from './NewLayerPlaces';
import { Overview } from './Overview';
import { useHands } from './pointer/useHands';
import { usePressing } from './pointer/usePressing';
import type { Row } from './rows';
import { rowsInSight, sameRows, timelineRows } from './rows';
import { Ruler } from './Ruler';
import { ShotLane } from './ShotLane';
import { ShotLaneHead } from './ShotLaneHead';
import { SoundLaneHeads } from './SoundLaneHeads';
import { SoundLanes, soundHeight } from './SoundLanes';
import { TetherRibbons } from './TetherRibbons';
import { TimelineTools } from './TimelineTools';
import type { Sight } from './useViewport';
import { useViewport } from './useViewport';

/** Frames beyond the end that can be scrolled to and dropped on. */
const FRAMES_AFTER = 600;
/** Pixels below the last lane. */
const PIXELS_BELOW = 40;

/** Lanes of all characters under a ruler, with the playhead, and the whole piece in a strip below. */
export function Timeline() {
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  const isChoosing = useAppSelector((s) => s.session.choosing.length > 0);
  const scroller = useRef<HTMLDivElement>(null);
  const content = useRef<HTMLDivElement>(null);
  const frames = Math.max(plan.end + FRAMES_AFTER, 1200);
  const [elements] = useState({ scroller, content });
  const sight = useViewport(elements, frames);
  const rows = useRows(scene, plan);
  const latest = useRef(rows);
  useEffect(() => void (latest.current = rows), [rows]);
  const rowsNow = useCallback(() => latest.current, []);
  const below = rows.reduce((sum, r) => sum + r.height, 0);
  const cameras = scene.cameraOrder.length;
  const sounding = below + (cameras > 0 ? SHOT_ROW : 0);
  const height = sounding + soundHeight(scene) + PIXELS_BELOW;
  const seen = rowsInSight(rows, sight);
  return (
    <section aria-label="Timeline" className="relative flex h-full min-h-0 flex-col border-t">
      <div
        ref={scroller}
        id="timeline-lanes"
        className="relative min-h-0 flex-1 overflow-auto overscroll-contain"
        data-timeline
        aria-busy={isChoosing}
      >
        <div className="relative flex w-max min-w-full">
          <div className="sticky left-0 z-20 shrink-0 border-r bg-paper" style={{ width: HEADER_WIDTH }}>
            <div className="sticky top-0 z-30 border-b bg-paper" style={{ height: RULER_HEIGHT }}>
              <TimelineTools />
            </div>
            <div className="relative" style={{ height }}>
              {seen.map((row) => (
                <LaneHead key={row.lane.id} row={row} rowsNow={rowsNow} />
              ))}
              {cameras > 0 && <ShotLaneHead top={below} cameras={cameras} />}
              <SoundLaneHeads scene={scene} top={sounding} />
              <HiddenLanes scene={scene} top={height - PIXELS_BELOW} />
            </div>
          </div>
          <Content {...{ content, scene, plan, sight, rows, seen, rowsNow, height, below, sounding }} />
        </div>
        {rows.length === 0 && (
          <p className="absolute inset-x-0 top-12 text-center text-soft">
            Drag a clip here, or double-click one: it brings a character along. Or choose a body with +
            Character.
          </p>
        )}
      </div>
      <Overview rows={rows} frames={frames} pixelsPerFrame={sight.ppf} />
    </section>
  );
}

interface ContentProps {
  readonly content: RefObject<HTMLDivElement | null>;
  readonly scene: Scene;
  readonly plan: Plan;
  readonly sight: Sight;
  readonly rows: readonly Row[];
  readonly seen: readonly Row[];
  readonly rowsNow: () => readonly Row[];
  readonly height: number;
  /** Pixels from the top to the camera lane, and to the sound lanes below it. */
  readonly below: number;
  readonly sounding: number;
}

/** What is scrolled: the ruler, and under it the lanes with what lies over them. */
function Content(props: ContentProps) {
  const { content, scene, plan, sight, rows, seen, rowsNow, height, below, sounding } = props;
  const lanes = useRef<HTMLDivElement>(null);
  const { handlers, targetAt } = useHands(lanes, rowsNow);
  const navigate = useNavigate();
  const openClip = (event: React.MouseEvent): void => {
    const target = targetAt(event);
    if (target.kind === 'segment') void navigate(clipPath(target.clip));
  };
  const pressing = usePressing(lanes);
  const { ppf, left, right } = sight;
  return (
    <div ref={content} className="relative grow">
      <div className="sticky top-0 z-[15]">
        <Ruler
          {...{ left, right, ppf }}
          rate={plan.rate}
          markers={scene.markers}
          range={scene.range}
          end={plan.end}
        />
      </div>
      <LaneMenu targetAt={targetAt}>
        <div
          ref={lanes}
          className="relative touch-none overflow-clip select-none"
          style={{ height }}
          onDoubleClick={openClip}
          {...handlers}
        >
          <RangeShade scene={scene} ppf={ppf} />
          <AlternateSheets
            plan={plan}
            rows={seen}
            filmed={{ top: below, height: height - PIXELS_BELOW - below }}
            ppf={ppf}
          />
          <Lanes scene={scene} rows={seen} sight={sight} rate={plan.rate} pressing={pressing} />
          <GroupBands scene={scene} rows={rows} ppf={ppf} />
          <SheetNames plan={plan} rows={seen} ppf={ppf} />
          <TetherRibbons scene={scene} plan={plan} rows={seen} ppf={ppf} />
          <LinkThreads scene={scene} rows={rows} ppf={ppf} height={height} />
          {scene.cameraOrder.length > 0 && <ShotLane {...{ scene, ppf }} top={below} />}
          <SoundLanes {...{ scene, plan, sight }} top={sounding} />
          <HandMarks ppf={ppf} />
          <NewLayerPlaces rows={rows} />
        </div>
      </LaneMenu>
      <Guide ppf={ppf} />
      <Playhead ppf={ppf} />
    </div>
  );
}

/** The rows; those that an edit or a drag does not touch stay the same objects. */
function useRows(scene: Scene, plan: Plan): readonly Row[] {
  const [kept] = useState({ rows: [] as readonly Row[] });
  const unfolded = useAppSelector((s) => s.session.unfolded);
  return useMemo(() => {
    const rows = sameRows(kept.rows, timelineRows(scene, plan, unfolded));
    kept.rows = rows;
    return rows;
  }, [scene, plan, unfolded, kept]);
}
