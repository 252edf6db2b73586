import { useFrame, useThree } from '@react-three/fiber';
import type { Camera, Plan } from '@warper/core';
import { cameraAim, cameraAt, cameraKeyFrames, makeCameraPose } from '@warper/core';
import { useEffect, useMemo, useState } from 'react';
import { useStore } from 'react-redux';
import { BufferAttribute, BufferGeometry, Line, LineBasicMaterial, LineSegments } from 'three';
import { themeColour } from '../../../parts/stage/colours';
import { looseOf, withLooseCameras } from '../../../parts/stage/filmedPose';
import { selectPreviewPlan } from '../../../store/selectors';
import type { RootState } from '../../../store/store';
import { useAppSelector } from '../../../store/store';
import { FloorGrip } from './FloorGrip';
import { standEdit } from '../filming/cameraEdits';

/** Metres from the camera at which its open frame is drawn. */
const DEPTH = 0.6;
/** Corners of the open frame, and the lines between the eye (0) and them; the last two tell which way is up. */
const LINES = [0, 1, 0, 2, 0, 3, 0, 4, 1, 2, 2, 3, 3, 4, 4, 1, 5, 6, 6, 7] as const;
const POINTS = 8;

/** The cameras of the scene as open frames: the one in hand in the colour of what is in hand, with handles and its way. */
export function CameraFrames({ plan: latest, theme }: { readonly plan: Plan; readonly theme: string }) {
  const selection = useAppSelector((s) => s.session.selection);
  const isFilming = selection.kind === 'camera' || selection.kind === 'shot';
  const dragging = useAppSelector((s) => s.scene.draft !== null);
  // While something else is dragged the frames stay where they are: where cameras follow is computed for the whole scene.
  const [still, setStill] = useState(latest);
  if (still !== latest && (isFilming || !dragging)) setStill(latest);
  const plan = withLooseCameras(dragging && !isFilming ? still : latest);
  const { cameras, shots } = plan.filming;
  const own =
    selection.kind === 'camera'
      ? selection.id
      : selection.kind === 'shot'
        ? shots.find((s) => s.id === selection.id)?.camera
        : undefined;
  return cameras.map((camera) => (
    <group key={`${camera.id}-${theme}`} userData={{ handle: true }}>
      <OpenFrame plan={plan} camera={camera} chosen={camera.id === own} />
      {camera.id === own && <Way plan={plan} camera={camera} />}
      {camera.id === own && <Grips plan={plan} camera={camera} />}
    </group>
  ));
}

interface Props {
  readonly plan: Plan;
  readonly camera: Camera;
}

function OpenFrame({ plan, camera, chosen }: Props & { readonly chosen: boolean }) {
  const store = useStore<RootState>();
  const invalidate = useThree((s) => s.invalidate);
  const { object, pose } = useMemo(() => {
    const geometry = new BufferGeometry()
      .setAttribute('position', new BufferAttribute(new Float32Array(POINTS * 3), 3))
      .setIndex([...LINES]);
    const colour = themeColour(chosen ? '--signal' : '--soft');
    const lines = new LineSegments(
      geometry,
      new LineBasicMaterial({ color: colour, transparent: true, opacity: chosen ? 1 : 0.7 }),
    );
    lines.frustumCulled = false;
    return { object: lines, pose: makeCameraPose() };
  }, [chosen]);
  useEffect(() => {
    invalidate();
    return () => object.geometry.dispose();
  }, [object, plan, invalidate]);
  useFrame(() => {
    cameraAt(plan, camera, store.getState().session.frame, pose);
    const y = DEPTH * pose.halfHeight;
    const x = y * plan.filming.aspect;
    const corners = [
      [0, 0, 0],
      [-x, -y, -DEPTH],
      [x, -y, -DEPTH],
      [x, y, -DEPTH],
      [-x, y, -DEPTH],
      [-x * 0.4, y * 1.1, -DEPTH],
      [0, y * 1.45, -DEPTH],
      [x * 0.4, y * 1.1, -DEPTH],
    ].flat();
    const position = object.geometry.getAttribute('position') as BufferAttribute;
    position.set(corners);
    position.needsUpdate = true;
    object.position.fromArray(pose.place);
    object.quaternion.fromArray(pose.rotation);
  });
  return <primitive object={object} />;
}

/** Places of a camera's way that are drawn at most. */
const PLACES = 240;

/** Where the camera in hand goes. */
function Way({ plan, camera }: Props) {
  const invalidate = useThree((s) => s.invalidate);
  const line = useMemo(() => {
    const frames = Math.max(1, plan.end - plan.start);
    const count = Math.min(PLACES, frames);
    const pose = makeCameraPose();
    const points = Array.from({ length: count + 1 }, (_, i) => [
      ...cameraAt(plan, camera, plan.start + (frames * i) / count, pose).place,
    ]).flat();
    const geometry = new BufferGeometry().setAttribute(
      'position',
      new BufferAttribute(new Float32Array(points), 3),
    );
    return new Line(
      geometry,
      new LineBasicMaterial({ color: themeColour('--signal'), transparent: true, opacity: 0.5 }),
    );
  }, [plan, camera]);
  useEffect(() => {
    invalidate();
    return () => line.geometry.dispose();
  }, [line, invalidate]);
  return <primitive object={line} />;
}

/** How large the places of a camera, of its aim, and of its path's points are drawn, of a floor handle's usual size. */
const SIZES = { place: 0.7, aim: 0.45, point: 0.4 } as const;

/** Handles on the floor below the camera in hand, below what it is aimed at, and for the points of its path. */
function Grips({ plan, camera }: Props) {
  const frame = useAppSelector((s) => s.session.frame);
  // What is dragged goes on from the document, not from what the drag shows.
  const document = useAppSelector((s) => s.scene.document?.cameras[camera.id]);
  const kept = useMemo(() => document && looseOf(document), [document]);
  const store = useStore<RootState>();
  if (!kept) return null;
  const at = (shown: Camera): { place: readonly number[]; aim: readonly number[] } => {
    const aim = cameraAim(plan, shown, frame);
    return { place: [...cameraAt(plan, shown, frame, makeCameraPose()).place], aim };
  };
  const shown = at(camera);
  const spot = ([x = 0, , z = 0]: readonly number[]) => ({ x, z, heading: 0 });
  const moved = (which: 'place' | 'aim') => (to: { readonly x: number; readonly z: number }) => {
    const { plan: latest } = selectPreviewPlan(store.getState());
    const own = at(kept);
    const [x = 0, y = 0, z = 0] = own.place;
    const [ax = 0, ay = 0, az = 0] = own.aim;
    return standEdit(latest, kept, frame, {
      place: which === 'place' ? [to.x, y, to.z] : [x, y, z],
      aim: which === 'aim' ? [to.x, ay, to.z] : [ax, ay, az],
      only: which,
    });
  };
  const isKeyed = cameraKeyFrames(camera).includes(Math.round(frame));
  return (
    <>
      <FloorGrip
        key={isKeyed ? 'keyed' : 'between'}
        size={SIZES.place}
        turns={false}
        grip={{ place: spot(shown.place), hue: null, edit: moved('place') }}
      />
      {!camera.look && (
        <FloorGrip
          size={SIZES.aim}
          turns={false}
          grip={{ place: spot(shown.aim), hue: null, edit: moved('aim') }}
        />
      )}
      {camera.path?.map(([x, z], i) => (
        <FloorGrip
          key={`point ${i}`}
          size={SIZES.point}
          turns={false}
          grip={{
            place: { x, z, heading: 0 },
            hue: null,
            edit: (to) => ({
              type: 'change camera',
              camera: camera.id,
              values: { path: (kept.path ?? []).map((p, k) => (k === i ? ([to.x, to.z] as const) : p)) },
            }),
          }}
        />
      ))}
    </>
  );
}
