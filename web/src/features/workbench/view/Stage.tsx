import { useThree } from '@react-three/fiber';
import type { Plan, Scene } from '@warper/core';
import type { RefObject } from 'react';
import { useEffect, useRef } from 'react';
import { useStore } from 'react-redux';
import type { Group } from 'three';
import type { Version } from '../../../store/alternates';
import { selectPreviewScene } from '../../../store/selectors';
import type { ViewAngle } from '../../../store/sessionState';
import type { RootState } from '../../../store/store';
import { useAppSelector } from '../../../store/store';
import { ViewCamera } from './Camera';
import { CharacterFigure } from '../../../parts/stage/CharacterFigure';
import { Floor } from '../../../parts/stage/Floor';
import { FloorPath } from '../../../parts/stage/FloorPath';
import { AlternateGhosts } from './AlternateGhosts';
import { CameraFrames } from './CameraFrames';
import { ComparedPoses } from './ComparedPoses';
import { FloorFinder } from './FloorFinder';
import { FloorHandles } from './FloorHandles';
import { Ghosts } from './Ghosts';
import { JointPicks } from './JointPicks';
import { LandingGrips } from './LandingGrips';
import { LeadLines } from './LeadLines';
import { LocatedMarks } from './LocatedMarks';
import { LookHandle } from './LookHandle';
import { Marks, markedSegments } from './Marks';
import { MarkGrips } from './MarkGrips';
import { MeasureLine } from './Measure';
import { PathDrawer } from './PathDrawer';
import { PoseHandles } from './PoseHandles';
import { BesidePicture } from './ShotBeside';
import { ShotPicture } from './ShotPicture';
import type { Panes } from './SideBySide';
import { SideBySide } from './SideBySide';
import { TetherPicks } from './TetherPicks';
import { TetherThread } from './TetherThread';
import { TwoViews } from './TwoViews';
import { useFacing } from './useFacing';
import { FacingGrips } from './FacingGrips';
import { StageCanvas } from '../../../parts/stage/StageCanvas';

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
        'located',
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

interface StageProps {
  readonly plan: Plan;
  readonly angle: ViewAngle;
  readonly panes: Panes;
  readonly ghosts: readonly Version[];
  /** Whether what the camera sees is in the corner. */
  readonly inset: boolean;
  /** What it is drawn onto beside the view; null where it is not. */
  readonly beside: RefObject<HTMLCanvasElement | null> | null;
}

/** What stands on the floor, and who looks at it. */
export function Stage({ plan, angle, panes, ghosts, inset, beside }: StageProps) {
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
        {!isSplit && angle !== 'camera' && <LocatedMarks key={theme} />}
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
  readonly panes: Panes;
  readonly own: RefObject<Group | null>;
  readonly theme: string;
}

/** What is drawn in place of, or beside, the one picture of the view's own camera. */
function Pictures({ angle, heading, inset, panes, own, theme }: PicturesProps) {
  if (panes.length > 0) return <SideBySide panes={panes} own={own} theme={theme} />;
  if (angle === 'both') return <TwoViews heading={heading} />;
  return angle === 'camera' || inset ? <ShotPicture inset={angle !== 'camera'} /> : null;
}
