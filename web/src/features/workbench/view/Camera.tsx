import { OrbitControls, PerspectiveCamera } from '@react-three/drei';
import { useFrame, useThree } from '@react-three/fiber';
import type { CharacterPlan, Plan } from '@warper/core';
import { evaluate, makePoseBuffer, defined } from '@warper/core';
import type { RefObject } from 'react';
import { useEffect, useMemo, useRef } from 'react';
import { useStore } from 'react-redux';
import type { Camera } from 'three';
import { Vector3 } from 'three';
import type { OrbitControls as Orbit } from 'three-stdlib';
import { selectPreviewScene } from '../../../store/selectors';
import type { Selection, ViewAngle } from '../../../store/sessionState';
import type { RootState } from '../../../store/store';
import { useAppSelector } from '../../../store/store';
import { spanOf } from '../spanOf';
import { addViewStand } from './viewStand';
import {
  FIELD,
  LOOK_HEIGHT,
  directionOf,
  distanceFor,
  extentOf,
  frameOf,
  frameOfJoints,
  shiftToKeep,
} from './framing';

/** Counts how often the camera was made to look at something. */
type Looks = RefObject<number>;

/** Metres around what happens that the top shows. */
const MARGIN = 1.2;

interface Props {
  readonly plan: Plan;
  /** Heading of whose front and side are looked at, radians. */
  readonly heading: number;
}

/** The camera: orbits freely, looks from an angle, brings into view what is asked for, and follows a character. */
export function ViewCamera({ plan, heading }: Props) {
  // drei makes its controls anew when the camera changes, so they are taken from the view and not from a ref.
  const controls = useThree((s) => s.controls) as Orbit | null;
  const looks = useRef(0);
  useAngle(plan, heading, controls, looks);
  useFraming(plan, controls, looks);
  useFollowing(plan, controls, looks);
  useKeepingInView(plan, controls);
  useViewStand(controls);
  const isFilmed = useAppSelector((s) => s.session.angle === 'camera');
  return (
    <>
      <PerspectiveCamera makeDefault fov={FIELD} near={0.05} far={120} position={[4, 2.4, 6]} />
      <OrbitControls
        makeDefault
        enabled={!isFilmed}
        enableDamping={false}
        maxPolarAngle={Math.PI * 0.495}
        minDistance={0.8}
        maxDistance={60}
      />
    </>
  );
}

/** Lets cameras of the scene be put where the view looks from. */
function useViewStand(controls: Orbit | null): void {
  const camera = useThree((s) => s.camera);
  useEffect(
    () =>
      controls
        ? addViewStand(() => ({
            place: camera.position.toArray(),
            aim: controls.target.toArray(),
            halfHeight: Math.tan(((FIELD / 2) * Math.PI) / 180),
          }))
        : undefined,
    [camera, controls],
  );
}

const isFlat = (angle: ViewAngle): boolean => angle === 'front' || angle === 'side' || angle === 'both';

/**
 * Looks from the angle that is chosen. What is looked at and how far away stays, but for the first look, the look from the top,
 * which leaves nothing out, and front and side, which show the seam or segment in hand.
 */
function useAngle(plan: Plan, heading: number, controls: Orbit | null, looks: Looks): void {
  const angle = useAppSelector((s) => s.session.angle);
  const follow = useAppSelector((s) => s.session.follow);
  const selection = useAppSelector((s) => s.session.selection);
  const store = useStore<RootState>();
  const invalidate = useThree((s) => s.invalidate);
  const aspect = useThree((s) => s.viewport.aspect);
  const camera = useThree((s) => s.camera);
  const before = useRef<{ angle: ViewAngle; selection: Selection; heading: number; controls: Orbit } | null>(
    null,
  );
  useEffect(() => {
    // What a scene's camera sees is its own; the view keeps where it was meanwhile.
    if (!controls || plan.characters.length === 0 || angle === 'camera') return;
    const last = before.current;
    const reframes = isFlat(angle) && (selection.kind === 'segment' || selection.kind === 'seam');
    const same = last?.controls === controls && last.angle === angle && last.heading === heading;
    if (same && (last.selection === selection || !reframes)) return;
    before.current = { angle, selection, heading, controls };
    const again = last?.controls === controls && (angle !== 'top' || follow !== null);
    const { frame } = store.getState().session;
    const framed = reframes ? frameOf(plan, selection, frame) : null;
    const whole = framed
      ? viewOf(framed, angle === 'both' ? aspect / 2 : aspect)
      : again
        ? { target: controls.target.clone(), distance: camera.position.distanceTo(controls.target) }
        : wholeView(plan, angle, aspect);
    look(camera, controls, whole, new Vector3(...directionOf(angle, heading)));
    looks.current++;
    invalidate();
  }, [angle, heading, selection, follow, aspect, plan, camera, controls, looks, store, invalidate]);
}

/** What a camera looks at, and from how far: metres. */
interface Look {
  readonly target: Vector3;
  readonly distance: number;
}

/** Looks at a point from a unit direction. */
function look(camera: Camera, controls: Orbit, { target, distance }: Look, direction: Vector3): void {
  camera.position.copy(target).add(direction.multiplyScalar(distance));
  controls.target.copy(target);
  controls.update();
}

const viewOf = (
  { x, y, z, radius }: { x: number; y: number; z: number; radius: number },
  aspect: number,
): Look => ({
  target: new Vector3(x, y, z),
  distance: distanceFor(radius, aspect),
});

/** What is to be looked at, and from how far, to see everything that happens. */
function wholeView(plan: Plan, angle: ViewAngle, aspect: number): Look {
  const { x, z, across, deep } = extentOf(plan);
  const target = new Vector3(x, LOOK_HEIGHT, z);
  if (angle !== 'top') return { target, distance: Math.max(4.2, Math.max(across, deep) * 0.95 + 2.6) };
  const half = Math.max(across / aspect, deep) / 2 + MARGIN;
  return { target, distance: LOOK_HEIGHT + half / Math.tan((FIELD / 2) * (Math.PI / 180)) };
}

/** Brings into view what is asked for, from where the camera looks now. */
function useFraming(plan: Plan, controls: Orbit | null, looks: Looks): void {
  const framing = useAppSelector((s) => s.session.framing);
  const store = useStore<RootState>();
  const invalidate = useThree((s) => s.invalidate);
  const aspect = useThree((s) => s.viewport.aspect);
  const camera = useThree((s) => s.camera);
  const done = useRef(framing);
  useEffect(() => {
    if (!framing || !controls || framing === done.current) return;
    done.current = framing;
    const { selection, frame, angle, measured } = store.getState().session;
    // The joints that are measured are what is in hand, while there are any.
    const joints = measured && frameOfJoints(plan, measured, frame);
    const framed =
      framing.what === 'selection'
        ? (joints ?? frameOf(plan, selection, frame, selectPreviewScene(store.getState()).tethers))
        : null;
    const to = framed
      ? viewOf(framed, angle === 'both' ? aspect / 2 : aspect)
      : wholeView(plan, angle, aspect);
    look(camera, controls, to, camera.position.clone().sub(controls.target).normalize());
    looks.current++;
    invalidate();
  }, [framing, plan, camera, controls, aspect, looks, store, invalidate]);
}

/** Where a character's chest is at a frame. */
function chestOf(plan: CharacterPlan, frame: number, buffer: ReturnType<typeof makePoseBuffer>): Vector3 {
  const { root } = evaluate(plan, frame, buffer);
  return new Vector3(defined(root[0]), LOOK_HEIGHT * plan.character.size, defined(root[1]));
}

/** Moves what is looked at, and the camera with it. */
function pan(camera: Camera, controls: Orbit, step: Vector3): void {
  if (step.lengthSq() < 1e-12) return;
  camera.position.add(step);
  controls.target.add(step);
  controls.update();
}

/** Goes along with the character that is followed. */
function useFollowing(plan: Plan, controls: Orbit | null, looks: Looks): void {
  const follow = useAppSelector((s) => s.session.follow);
  const store = useStore<RootState>();
  const invalidate = useThree((s) => s.invalidate);
  const camera = useThree((s) => s.camera);
  const followed = plan.characters.find((c) => c.character.id === follow);
  const size = followed?.character.size ?? 1;
  const buffer = useMemo(() => followed && makePoseBuffer(followed.skeleton), [followed]);
  const last = useRef<Vector3 | null>(null);
  const seen = useRef(looks.current);
  useEffect(() => {
    last.current = null;
    seen.current = looks.current;
    if (follow && controls) comeNearer(camera, controls, size);
    invalidate();
  }, [follow, size, camera, controls, looks, invalidate]);
  useFrame(() => {
    if (!followed || !buffer || !controls) return;
    const chest = chestOf(followed, store.getState().session.frame, buffer);
    // Where it was made to look elsewhere, it goes along from there.
    if (seen.current === looks.current)
      pan(camera, controls, chest.clone().sub(last.current ?? controls.target));
    seen.current = looks.current;
    last.current = chest;
  });
}

/** Distance from which one character of its own size fills the view well, metres. */
const NEAR = 5;

/** Brings a camera that looks at the whole scene near enough to look at one character. */
function comeNearer(camera: Camera, controls: Orbit, size: number): void {
  const way = camera.position.clone().sub(controls.target);
  const near = NEAR * Math.max(0.2, size);
  if (way.length() > near) camera.position.copy(controls.target).add(way.setLength(near));
  controls.update();
}

/** While it plays, moves along when the character in hand, or the only one, is about to leave the view. */
function useKeepingInView(plan: Plan, controls: Orbit | null): void {
  const playing = useAppSelector(
    (s) => s.session.playing && s.session.autoFollow && s.session.follow === null,
  );
  const selection = useAppSelector((s) => s.session.selection);
  const store = useStore<RootState>();
  const camera = useThree((s) => s.camera);
  const aspect = useThree((s) => s.viewport.aspect);
  const watched =
    spanOf(plan, selection)?.character ?? (plan.characters.length === 1 ? plan.characters[0] : undefined);
  const buffer = useMemo(() => watched && makePoseBuffer(watched.skeleton), [watched]);
  useFrame(() => {
    if (!playing || !watched || !buffer || !controls) return;
    const { frame, angle } = store.getState().session;
    const away = chestOf(watched, frame, buffer).sub(controls.target);
    const distance = camera.position.distanceTo(controls.target);
    const half =
      distance * Math.tan(((FIELD / 2) * Math.PI) / 180) * (angle === 'both' ? aspect / 2 : aspect);
    const right = new Vector3().setFromMatrixColumn(camera.matrixWorld, 0).setY(0).normalize();
    const deep = new Vector3().crossVectors(new Vector3(0, 1, 0), right);
    const [across, into] = shiftToKeep(away.dot(right), away.dot(deep), half, distance);
    pan(camera, controls, right.multiplyScalar(across).addScaledVector(deep, into));
  });
}
