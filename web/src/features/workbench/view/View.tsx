import { useRef } from 'react';
import { selectPreviewPlan } from '../../../store/selectors';
import type { ViewAngle } from '../../../store/sessionState';
import { useAppSelector } from '../../../store/store';
import { GhostNames, useGhostVersions } from './AlternateGhosts';
import { LineCaption } from './LineCaption';
import { DrawingHint } from './PathDrawer';
import { ShotBeside } from './ShotBeside';
import { ShotFrame } from './ShotFrame';
import { PaneNames, usePanes } from './SideBySide';
import { useFieldSize } from './useFieldSize';
import { Stage } from './Stage';
import { ViewControls } from './ViewControls';

/** Words over the view can be read whatever is behind them. */
const CAPTION = 'absolute rounded-sm bg-plaster/85 px-1 text-small text-soft';

/** The 3D view of the performance at the playhead. */
export function View() {
  const { plan } = useAppSelector(selectPreviewPlan);
  const angle = useAppSelector((s) => s.session.angle);
  const filmView = useAppSelector((s) => (plan.filming.cameras.length > 0 ? s.session.filmView : 'none'));
  const [area, field] = useFieldSize();
  const panes = usePanes();
  const ghosts = useGhostVersions();
  const picture = useRef<HTMLCanvasElement>(null);
  const inset = filmView === 'corner';
  const isSplit = panes.length > 0;
  const isBeside = filmView === 'beside' && !isSplit && angle !== 'both' && angle !== 'camera';
  return (
    <section
      aria-label="View: the characters at the playhead"
      className="flex h-full min-w-0 flex-col overflow-hidden bg-plaster"
    >
      <ViewControls />
      <div className="flex min-h-0 flex-1">
        <div ref={area} className="relative min-w-0 flex-1 overflow-hidden">
          <Stage {...{ plan, angle, panes, ghosts, inset }} beside={isBeside ? picture : null} />
          {isSplit ? (
            <PaneNames panes={panes} />
          ) : (
            <Frames angle={angle} isFilmed={angle === 'camera' || inset} field={field} />
          )}
          {ghosts.length > 0 && <GhostNames versions={ghosts} />}
          <DrawingHint />
          <LineCaption />
          {angle !== 'camera' && !inset && (
            <span className={`${CAPTION} pointer-events-none right-2 bottom-8`}>1 m squares</span>
          )}
        </div>
        {isBeside && <ShotBeside picture={picture} />}
      </div>
    </section>
  );
}

interface FramesProps {
  readonly angle: ViewAngle;
  readonly isFilmed: boolean;
  readonly field: { readonly width: number; readonly height: number };
}

/** Lines and words over these pictures. */
function Frames({ angle, isFilmed, field }: FramesProps) {
  if (angle !== 'both') return isFilmed ? <ShotFrame inset={angle !== 'camera'} field={field} /> : null;
  return (
    <div className="pointer-events-none absolute inset-0" aria-hidden>
      <div className="absolute inset-y-0 left-1/2 border-l" />
      <span className={`${CAPTION} bottom-2 left-2`}>front</span>
      <span className={`${CAPTION} bottom-2 left-1/2 ml-2`}>side</span>
    </div>
  );
}
