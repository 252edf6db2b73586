import { useThree } from '@react-three/fiber';
import type { Plan, Scene } from '@warper/core';
import { Scan } from 'lucide-react';
import type { RefObject } from 'react';
import { useEffect, useRef } from 'react';
import { useStore } from 'react-redux';
import type { Group } from 'three';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import type { ViewAngle } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { ViewCamera } from './Camera';
import { CharacterFigure } from '../../../parts/stage/CharacterFigure';
import { Floor } from '../../../parts/stage/Floor';
import { FloorPath } from '../../../parts/stage/FloorPath';
import { AlternateGhosts, GhostNames, useGhostVersions } from './AlternateGhosts';
import { CameraFrames } from './CameraFrames';
import { ComparedPoses } from './ComparedPoses';
import { FilmingBar } from './FilmingBar';
import { FloorFinder } from './FloorFinder';
import { FloorHandles } from './FloorHandles';
import { Ghosts } from './Ghosts';
import { JointPicks } from './JointPicks';
import { LandingGrips } from './LandingGrips';
import { LeadLines } from './LeadLines';
import { LineCaption } from './LineCaption';
import { LookHandle } from './LookHandle';
import { Marks, markedSegments } from './Marks';
import { MarkGrips } from './MarkGrips';
import { MeasureBar, MeasureLine } from './Measure';
import { DrawingHint, PathDrawer } from './PathDrawer';
import { PoseBar } from './PoseBar';
import { PoseHandles } from './PoseHandles';
import { BesidePicture, ShotBeside } from './ShotBeside';
import { ShotFrame } from './ShotFrame';
import { ShotPicture } from './ShotPicture';
import { PaneNames, SideBySide, usePanes } from './SideBySide';
import { TetherPicks } from './TetherPicks';
import { TetherThread } from './TetherThread';
import { TwoViews } from './TwoViews';
import { useFacing } from './useFacing';
import { useFieldSize } from './useFieldSize';
import { FacingGrips } from './FacingGrips';
import { Button } from '../../../ui/controls';
import { StageCanvas } from '../../../parts/stage/StageCanvas';
import { Select } from '../../../ui/Select';
import { commandOf } from '../commands/commands';

/** Draws again whenever the shown frame or the theme changes; nothing is drawn in between. */
function Redraw() {
  const store = useStore<RootState>();
  const invalidate = useThree((s) => s.invalidate);
  useEffect(() => {
    let seen = store.getState().session;
    return store.subscribe(() => {
      const current = store.getState().session;
      const keys = [
        'frame',
        'theme',
        'follow',
        'angle',
        'ghosts',
        'measured',
        'selection',
        'posed',
        'posing',
        'filmedBy',
        'filmView',
        'besides',
        'comparison',
      ] as const;
      if (keys.some((k) => current[k] !== seen[k])) invalidate();
      seen = current;
    });
  }, [store, invalidate]);
  return null;
}

const ANGLES: readonly (readonly [ViewAngle, string])[] = [
  ['free', 'Around'],
  ['front', 'Front'],
  ['side', 'Side'],
  ['top', 'Top'],
  ['both', 'Front and side'],
  ['camera', 'Camera'],
];

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

interface StageProps {
  readonly plan: Plan;
  readonly angle: ViewAngle;
  readonly panes: ReturnType<typeof usePanes>;
  readonly ghosts: ReturnType<typeof useGhostVersions>;
  /** Whether what the camera sees is in the corner. */
  readonly inset: boolean;
  /** What it is drawn onto beside the view; null where it is not. */
  readonly beside: RefObject<HTMLCanvasElement | null> | null;
}

/** What stands on the floor, and who looks at it. */
function Stage({ plan, angle, panes, ghosts, inset, beside }: StageProps) {
  const scene = useAppSelector(selectPreviewScene);
  const theme = useAppSelector((s) => s.session.theme);
  const measured = useAppSelector((s) => s.session.measured);
  const heading = useFacing(plan);
  const own = useRef<Group>(null);
  const isSplit = panes.length > 0;
  const seen = plan.characters.filter((c) => c.character.shown !== 'nothing');
  return (
    <StageCanvas
      frameloop="demand"
      dpr={[1, 2]}
      gl={{ antialias: true }}
      resize={{ scroll: false }}
      // What is pressed is looked for where the view looks from, not the camera.
      style={angle === 'camera' ? PASSED_THROUGH : undefined}
    >
      <Floor theme={theme} />
      <hemisphereLight args={['#ffffff', '#b9ae9a', 2.3]} />
      <directionalLight position={[3, 6, 4]} intensity={1.9} />
      <group ref={own}>
        <Cast plan={plan} scene={scene} seen={seen} theme={theme} />
        {!isSplit && angle !== 'both' && angle !== 'camera' && <ViewHandles seen={seen} theme={theme} />}
        {!isSplit && angle !== 'camera' && <CameraFrames plan={plan} theme={theme} />}
        {measured && <MeasureLine key={theme} plan={plan} measured={measured} />}
        <AlternateGhosts key={theme} versions={ghosts} />
      </group>
      <ViewCamera plan={plan} heading={heading} />
      {beside ? (
        <BesidePicture picture={beside} />
      ) : (
        <Pictures {...{ angle, heading, inset, panes, own, theme }} />
      )}
      <Redraw />
      {angle !== 'camera' && <FloorFinder />}
    </StageCanvas>
  );
}

interface PicturesProps {
  readonly angle: ViewAngle;
  readonly heading: number;
  readonly inset: boolean;
  readonly panes: ReturnType<typeof usePanes>;
  readonly own: RefObject<Group | null>;
  readonly theme: string;
}

/** What is drawn in place of, or beside, the one picture of the view's own camera. */
function Pictures({ angle, heading, inset, panes, own, theme }: PicturesProps) {
  if (panes.length > 0) return <SideBySide panes={panes} own={own} theme={theme} />;
  if (angle === 'both') return <TwoViews heading={heading} />;
  return angle === 'camera' || inset ? <ShotPicture inset={angle !== 'camera'} /> : null;
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

interface CastProps {
  readonly plan: Plan;
  readonly scene: Scene;
  readonly seen: Plan['characters'];
  readonly theme: string;
}

const PASSED_THROUGH = { pointerEvents: 'none' } as const;

/** Marks what helps to arrange and is in no picture of a camera. */
const NO_PICTURE = { handle: true };

/** The characters and props, with their paths on the floor, marks, ghosts and joints to be picked. */
function Cast({ plan, scene, seen, theme }: CastProps) {
  const performing = seen.filter((c) => c.segments.length > 0);
  return (
    <>
      <LeadLines {...{ scene, plan, theme }} />
      {plan.characters.map((c) => (
        <CharacterFigure key={c.character.id} plan={c} />
      ))}
      <group userData={NO_PICTURE}>
        {seen.map((c) => (
          <TetherThread key={`${c.character.id}-${theme}`} plan={c} />
        ))}
        {performing.map((c) => (
          <FloorPath key={`${c.character.id}-${theme}`} plan={c} rate={plan.rate} Grips={FacingGrips} />
        ))}
        {plan.characters.map((c) => (
          <Marks
            key={c.character.id}
            segments={markedSegments(scene, c.character.id)}
            hue={c.character.hue}
            theme={theme}
          />
        ))}
        {seen.map((c) => (
          <Ghosts key={`${c.character.id}-${theme}`} plan={c} />
        ))}
        {seen.map((c) => (
          <ComparedPoses key={c.character.id} plan={c} />
        ))}
        {seen.map((c) => (
          <JointPicks key={`${c.character.id}-${theme}`} plan={c} />
        ))}
        {seen.map((c) => (
          <TetherPicks key={`${c.character.id}-${theme}`} plan={c} />
        ))}
      </group>
    </>
  );
}

/** What is taken hold of in the view: joints, places that are looked at, segments on the floor, landings. */
function ViewHandles({ seen, theme }: { readonly seen: Plan['characters']; readonly theme: string }) {
  return (
    <>
      {seen.map((c) => (
        <PoseHandles key={`${c.character.id}-${theme}`} plan={c} />
      ))}
      {seen.map((c) => (
        <LookHandle key={`${c.character.id}-${theme}`} plan={c} />
      ))}
      <FloorHandles />
      <MarkGrips />
      <PathDrawer />
      <LandingGrips />
    </>
  );
}

function ViewControls() {
  const dispatch = useAppDispatch();
  const angle = useAppSelector((s) => s.session.angle);
  const { plan } = useAppSelector(selectPreviewPlan);
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-x-3 border-b bg-paper px-1.5 py-0.5 text-small">
      <div role="group" aria-label="Look from" className="flex">
        {ANGLES.map(([key, name]) => (
          <Button
            look="tab"
            key={key}
            aria-pressed={angle === key}
            onClick={() => dispatch(sessionActions.turned(key))}
          >
            {name}
          </Button>
        ))}
      </div>
      {(angle === 'front' || angle === 'side' || angle === 'both') && <AxesChoice />}
      {angle !== 'camera' && (
        <Button
          look="soft"
          className="inline-flex items-center gap-1"
          title="Bring the selection into view (V)"
          aria-label="Frame the selection"
          onClick={() => dispatch(commandOf('frame').run)}
        >
          <Scan size={14} aria-hidden /> Frame
        </Button>
      )}
      {angle !== 'camera' && <FollowChoice plan={plan} />}
      <FilmingBar plan={plan} />
      <GhostFields />
      <MeasureBar plan={plan} />
      <PoseBar plan={plan} />
    </div>
  );
}

/** Whose front and side are looked at. */
function AxesChoice() {
  const dispatch = useAppDispatch();
  const axes = useAppSelector((s) => s.session.axes);
  return (
    <Select
      label="Front and side of"
      className="py-0! text-soft"
      value={axes}
      options={[
        ['character', 'of the character'],
        ['world', 'of the world'],
      ]}
      onChange={(value) => dispatch(sessionActions.axesChosen(value))}
    />
  );
}

/** Stands for following whoever leaves the view while it plays. */
const LEAVING = '(leaving)';

function FollowChoice({ plan }: { plan: Plan }) {
  const dispatch = useAppDispatch();
  const follow = useAppSelector((s) => s.session.follow);
  const auto = useAppSelector((s) => s.session.autoFollow);
  const choose = (value: string): void => {
    const id = value === LEAVING ? '' : value;
    dispatch(sessionActions.followed(id || null));
    if (!id) dispatch(sessionActions.autoFollowed(value === LEAVING));
  };
  return (
    <span className="flex items-baseline gap-1.5 text-soft">
      <label htmlFor="follow">Follow</label>
      <Select
        id="follow"
        className="py-0! text-ink"
        value={follow ?? (auto ? LEAVING : '')}
        options={[
          [LEAVING, 'who leaves'],
          ['', 'nobody'],
          ...plan.characters.map((c) => [c.character.id, c.character.name] as const),
        ]}
        onChange={choose}
      />
    </span>
  );
}

/** How many ghosts are shown on either side of the playhead, and how far apart. */
function GhostFields() {
  const dispatch = useAppDispatch();
  const { count, spacing } = useAppSelector((s) => s.session.ghosts);
  const field = 'w-9 border-b border-dotted border-soft bg-transparent text-right text-ink';
  return (
    <div role="group" aria-label="Ghosts" className="flex items-baseline gap-1.5 text-soft">
      <label className="flex items-baseline gap-1.5">
        Ghosts
        <input
          type="number"
          className={field}
          min={0}
          max={8}
          value={count}
          onChange={(e) =>
            dispatch(sessionActions.ghosted({ spacing, count: clamp(e.currentTarget.valueAsNumber, 0, 8) }))
          }
        />
      </label>
      {count > 0 && (
        <label className="flex items-baseline gap-1.5">
          every
          <input
            type="number"
            className={field}
            min={1}
            max={300}
            value={spacing}
            onChange={(e) =>
              dispatch(
                sessionActions.ghosted({ count, spacing: clamp(e.currentTarget.valueAsNumber, 1, 300) }),
              )
            }
          />
          f
        </label>
      )}
    </div>
  );
}

const clamp = (value: number, least: number, most: number): number =>
  Math.min(most, Math.max(least, Number.isFinite(value) ? Math.round(value) : least));
