import type { Camera, CameraCurve, CameraStand, Plan } from '@warper/core';
import {
  LENS,
  cameraAim,
  cameraAt,
  cameraCurveAt,
  cameraEdit,
  cameraKeyFrames,
  keyCameraEdit,
  makeCameraPose,
} from '@warper/core';
import { freshId } from '../../../data/freshId';
import { looseOf } from '../../../parts/stage/filmedPose';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { TextField } from '../../../ui/TextField';
import { commandOf } from '../commands/commands';
import { freeName } from '../drawer/freeName';
import { standEdit } from '../filming/cameraEdits';
import { removalOfKey } from '../timeline/ShotLane';
import { FollowGroup, KeepGroup, LookAtGroup } from './CameraMoves';
import { CameraPathGroup } from './CameraPathGroup';
import { FilmBackGroup } from './FilmBackGroup';
import { HandheldGroup } from './HandheldGroup';

interface Props {
  readonly camera: Camera;
  readonly plan: Plan;
}

/** A camera: where it stands and looks at the playhead, its keys, with whom it goes, and its film back. */
export function CameraCard({ camera, plan }: Props) {
  const dispatch = useAppDispatch();
  const through = useAppSelector(
    ({ session }) => session.angle === 'camera' && session.filmedBy === camera.id,
  );
  const change = (values: Partial<Omit<Camera, 'id'>>): void =>
    void dispatch(commit({ type: 'change camera', camera: camera.id, values }));
  const duplicate = (own: Camera): void => {
    const names = plan.filming.cameras.map((c) => c.name);
    const copy = { ...own, id: freshId('camera'), name: freeName(own.name, names) };
    if (dispatch(commit({ type: 'camera', camera: copy })))
      dispatch(sessionActions.selected({ kind: 'camera', id: copy.id }));
  };
  const look = (): void => {
    dispatch(sessionActions.filmedBy(through ? null : camera.id));
    dispatch(sessionActions.turned(through ? 'free' : 'camera'));
  };
  return (
    <>
      <p className="text-soft">Camera</p>
      <h2 className="mb-2 text-title font-bold">{camera.name}</h2>
      <div className="flex flex-wrap gap-2 pb-3">
        <Button onClick={look} aria-pressed={through}>
          {through ? 'Look around' : 'Look through it'}
        </Button>
        <Button
          title="Put the camera where the view looks from (Shift+U)"
          onClick={() => dispatch(commandOf('camera to view').run)}
        >
          To the view
        </Button>
      </div>
      <Group title="Camera">
        <TextField label="Name" value={camera.name} onChange={(name) => change({ name })} />
      </Group>
      <StandGroup camera={camera} plan={plan} />
      <KeysGroup camera={camera} />
      <FollowGroup {...{ camera, plan, change }} />
      <LookAtGroup {...{ camera, plan, change }} />
      <KeepGroup {...{ camera, plan, change }} />
      <CameraPathGroup {...{ camera, plan, change }} />
      <HandheldGroup camera={camera} change={change} />
      <FilmBackGroup {...{ camera, plan, change }} />
      <div className="flex flex-wrap gap-2 border-t pt-3">
        <Button onClick={() => duplicate(camera)}>Duplicate</Button>
        <Button
          onClick={() => {
            dispatch(commit({ type: 'remove camera', camera: camera.id }));
            dispatch(sessionActions.selected({ kind: 'scene' }));
          }}
        >
          Remove {camera.name}
        </Button>
      </div>
    </>
  );
}

const AXES = ['x', 'y', 'z'] as const;
const PLACE_WORDS = { x: 'Place X', y: 'Height', z: 'Place Z' } as const;
const AIM_WORDS = { x: 'Aim X', y: 'Aim height', z: 'Aim Z' } as const;

/** Where it stands, what it is aimed at, and its lens, at the playhead. What is set there becomes a key where it has keys. */
function StandGroup({ camera, plan }: Props) {
  const dispatch = useAppDispatch();
  const frame = useAppSelector((s) => s.session.frame);
  const still = looseOf(camera);
  const pose = cameraAt(plan, still, frame, makeCameraPose());
  const [x = 0, y = 0, z = 0] = pose.place;
  const stand: CameraStand = { place: [x, y, z], aim: cameraAim(plan, still, frame) };
  const set = (values: Readonly<Partial<Record<CameraCurve, number>>>): void =>
    void dispatch(commit(cameraEdit(camera, frame, values)));
  const put = (of: 'place' | 'aim', k: number, value: number): void => {
    const moved = stand[of].map((v, i) => (i === k ? value : v)) as unknown as CameraStand['place'];
    dispatch(commit(standEdit(plan, camera, frame, { ...stand, [of]: moved, only: of })));
  };
  return (
    <Group title="Place and aim">
      {AXES.map((axis, k) =>
        camera.path && axis !== 'y' ? null : (
          <NumberField
            key={axis}
            label={PLACE_WORDS[axis]}
            unit="m"
            digits={3}
            step={0.05}
            value={stand.place[k] ?? 0}
            onChange={(value) => put('place', k, value)}
          />
        ),
      )}
      {!camera.look &&
        AXES.map((axis, k) => (
          <NumberField
            key={axis}
            label={AIM_WORDS[axis]}
            unit="m"
            digits={3}
            step={0.05}
            value={stand.aim[k] ?? 0}
            onChange={(value) => put('aim', k, value)}
          />
        ))}
      <NumberField
        label="Lens"
        unit="mm"
        digits={1}
        least={LENS.least}
        most={LENS.most}
        value={cameraAt(plan, still, frame, pose).lens}
        onChange={(lens) => set({ lens })}
      />
      <CurveField camera={camera} frame={frame} curve="roll" onChange={(roll) => set({ roll })} />
      {camera.path && (
        <CurveField camera={camera} frame={frame} curve="along" onChange={(along) => set({ along })} />
      )}
    </Group>
  );
}

const CURVE_FIELDS = {
  roll: { label: 'Roll', unit: '°', digits: 2, least: -180, most: 180, times: 1 },
  along: { label: 'Along the path', unit: '%', digits: 1, least: 0, most: 100, times: 100 },
} as const;

interface CurveFieldProps {
  readonly camera: Camera;
  readonly frame: number;
  readonly curve: keyof typeof CURVE_FIELDS;
  readonly onChange: (value: number) => void;
}

/** What a curve of a camera is at a frame. */
function CurveField({ camera, frame, curve, onChange }: CurveFieldProps) {
  const { times, ...field } = CURVE_FIELDS[curve];
  return (
    <NumberField
      {...field}
      value={cameraCurveAt(camera, curve, frame) * times}
      onChange={(value) => onChange(value / times)}
    />
  );
}

/** Its keys; a press goes there. */
function KeysGroup({ camera }: Pick<Props, 'camera'>) {
  const dispatch = useAppDispatch();
  const frame = Math.round(useAppSelector((s) => s.session.frame));
  const frames = cameraKeyFrames(camera);
  const here = frames.includes(frame);
  return (
    <Group title="Keys">
      {frames.length === 0 && (
        <p className="text-soft">It stands still. With keys, what is set at a frame holds there.</p>
      )}
      <p className="flex flex-wrap gap-1">
        {frames.map((f) => (
          <Button
            key={f}
            look="chip"
            aria-pressed={f === frame}
            aria-label={`Go to the key at frame ${f}`}
            onClick={() => dispatch(sessionActions.went(f))}
          >
            {f}
          </Button>
        ))}
      </p>
      <div className="flex gap-2">
        <Button
          title="Key the camera at the playhead (U)"
          onClick={() => dispatch(commit(keyCameraEdit(camera, frame)))}
        >
          Key at {frame}
        </Button>
        {here && (
          <Button onClick={() => dispatch(commit(removalOfKey(camera, frame)))}>Remove this key</Button>
        )}
      </div>
      {here && <KeyCurveChoice camera={camera} frame={frame} />}
    </Group>
  );
}

/** How the keys at a frame go on to the next. */
function KeyCurveChoice({ camera, frame }: { readonly camera: Camera; readonly frame: number }) {
  const dispatch = useAppDispatch();
  const here = Object.entries(camera.keys).flatMap(([curve, list]) => {
    const key = list.find((k) => k.frame === frame);
    return key ? [[curve, key] as const] : [];
  });
  const values = Object.fromEntries(here.map(([curve, { value }]) => [curve, value]));
  return (
    <Choice
      label="Interpolation"
      value={here[0]?.[1].curve ?? 'smooth'}
      options={[
        ['smooth', 'Smooth'],
        ['linear', 'Linear'],
        ['flat', 'Flat'],
        ['hold', 'Hold'],
      ]}
      onChange={(curve) => dispatch(commit({ type: 'camera key', camera: camera.id, frame, values, curve }))}
    />
  );
}
