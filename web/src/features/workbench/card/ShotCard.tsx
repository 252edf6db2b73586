import type { Camera, Plan, Scene, Shot } from '@warper/core';
import { framesPerSecond } from '@warper/core';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';
import { Button, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { TextField } from '../../../ui/TextField';
import { useLineCrossings } from '../filming/useLineCrossings';
import { crossingWords } from '../timeline/ShotLane';

interface Props {
  readonly shot: Shot;
  readonly camera: Camera;
  readonly scene: Scene;
  readonly plan: Plan;
}

/** A shot: which camera, from when to when, and how it joins the one before. */
export function ShotCard({ shot, camera, scene, plan }: Props) {
  const dispatch = useAppDispatch();
  const fps = framesPerSecond(plan.rate);
  const change = (values: Partial<Omit<Shot, 'id'>>): void =>
    void dispatch(commit({ type: 'change shot', shot: shot.id, values }));
  const crossing = useLineCrossings().find((c) => c.shot === shot.id);
  const isFirst = plan.filming.shots[0]?.id === shot.id;
  return (
    <>
      <p className="text-soft">Shot</p>
      <h2 className="mb-2 text-title font-bold">{shot.name}</h2>
      {crossing && (
        <p role="note" className="mb-2 text-watch">
          ▲ The cut {crossingWords(crossing, scene)}: who was on the left is on the right. Blend it, put a
          shot between, or bring the camera to the other side.
        </p>
      )}
      <Group title="Shot">
        <TextField label="Name" value={shot.name} onChange={(name) => change({ name })} />
        <Choice
          label="Camera"
          value={shot.camera}
          options={plan.filming.cameras.map((c) => [c.id, c.name] as const)}
          onChange={(id) => change({ camera: id })}
        />
        <NumberField
          label="Start"
          unit="f"
          value={shot.start}
          framesPerSecond={fps}
          onChange={(start) => change({ start })}
        />
        <NumberField
          label="Length"
          unit="f"
          least={1}
          value={shot.end - shot.start}
          framesPerSecond={fps}
          onChange={(length) => change({ end: shot.start + length })}
        />
        {!isFirst && <JoinFields shot={shot} fps={fps} change={change} />}
        <TextField label="Comment" value={shot.comment} onChange={(comment) => change({ comment })} />
      </Group>
      <ShotButtons shot={shot} camera={camera} />
    </>
  );
}

interface FieldsProps {
  readonly shot: Shot;
  readonly fps: number;
  readonly change: (values: Partial<Omit<Shot, 'id'>>) => void;
}

/** How it joins the shot before. */
function JoinFields({ shot, fps, change }: FieldsProps) {
  return (
    <>
      <Choice
        label="Join"
        value={shot.blend > 0 ? 'blend' : 'cut'}
        options={[
          ['cut', 'Cut'],
          ['blend', 'Blend from the camera before'],
        ]}
        onChange={(join) => change({ blend: join === 'cut' ? 0 : Math.round(fps) })}
      />
      {shot.blend > 0 && (
        <NumberField
          label="Blend length"
          unit="f"
          least={1}
          most={shot.end - shot.start}
          value={shot.blend}
          framesPerSecond={fps}
          onChange={(blend) => change({ blend })}
        />
      )}
    </>
  );
}

function ShotButtons({ shot, camera }: Pick<Props, 'shot' | 'camera'>) {
  const dispatch = useAppDispatch();
  return (
    <div className="flex flex-wrap gap-2 border-t pt-3">
      <Button onClick={() => dispatch(sessionActions.selected({ kind: 'camera', id: camera.id }))}>
        Edit {camera.name}
      </Button>
      <Button onClick={() => dispatch(commit({ type: 'range', range: { from: shot.start, to: shot.end } }))}>
        Play the shot
      </Button>
      <Button
        onClick={() => {
          dispatch(commit({ type: 'remove shot', shot: shot.id }));
          dispatch(sessionActions.selected({ kind: 'scene' }));
        }}
      >
        Remove
      </Button>
    </div>
  );
}
