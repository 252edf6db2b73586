import type { Plan, Scene, Sound } from '@warper/core';
import { defined, framesPerSecond, soundEnd, soundSeconds } from '@warper/core';
import { freshId } from '../../../data/freshId';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';
import { Button, Check, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { TextField } from '../../../ui/TextField';
import { seconds } from '../../../ui/time';
import { freeName } from '../drawer/freeName';
import { GainField } from './GainField';
import { BeatGroup } from './BeatGroup';

interface Props {
  readonly sound: Sound;
  readonly scene: Scene;
  readonly plan: Plan;
}

/** What of a sound a card sets. */
export type SoundValues = Partial<Omit<Sound, 'id' | 'source' | 'seconds'>>;

/** A sound: where it is, what is played of its file, and how loud. */
export function SoundCard({ sound, scene, plan }: Props) {
  const dispatch = useAppDispatch();
  const fps = framesPerSecond(plan.rate);
  const change = (values: SoundValues): void =>
    void dispatch(commit({ type: 'change sound', sound: sound.id, values }));
  return (
    <>
      <p className="text-soft">Sound on {scene.soundLanes[sound.lane]?.name}</p>
      <h2 className="mb-1 text-title font-bold">{sound.name}</h2>
      <p className="pb-2 text-soft">
        {seconds(soundSeconds(sound))} of a file of {seconds(sound.seconds)}
      </p>
      <Group title="Place">
        <TextField label="Name" value={sound.name} onChange={(name) => change({ name })} />
        <Choice
          label="Lane"
          value={sound.lane}
          options={scene.soundLaneOrder.map((id) => [id, defined(scene.soundLanes[id]).name] as const)}
          onChange={(lane) => change({ lane })}
        />
        <NumberField
          label="Start"
          unit="f"
          value={sound.start}
          framesPerSecond={fps}
          onChange={(start) => change({ start })}
        />
      </Group>
      <PartFields sound={sound} change={change} />
      <LoudnessFields sound={sound} change={change} />
      <BeatGroup sound={sound} scene={scene} fps={fps} change={change} />
      <SoundButtons sound={sound} scene={scene} fps={fps} />
    </>
  );
}

interface FieldsProps {
  readonly sound: Sound;
  readonly change: (values: SoundValues) => void;
}

/** What is played of the file, and how often. */
function PartFields({ sound, change }: FieldsProps) {
  return (
    <Group title="Part">
      <NumberField
        label="In"
        unit="s"
        digits={3}
        least={0}
        most={sound.out}
        value={sound.in}
        onChange={(value) => change({ in: value })}
      />
      <NumberField
        label="Out"
        unit="s"
        digits={3}
        least={sound.in}
        most={sound.seconds}
        value={sound.out}
        onChange={(out) => change({ out })}
      />
      <NumberField
        label="Repeats"
        digits={2}
        least={0.01}
        most={10_000}
        value={sound.repeat}
        onChange={(repeat) => change({ repeat })}
      />
    </Group>
  );
}

/** How loud it is, and how it comes and goes. */
function LoudnessFields({ sound, change }: FieldsProps) {
  return (
    <Group title="Loudness">
      <GainField value={sound.gain} onChange={(gain) => change({ gain })} />
      <NumberField
        label="Fade in"
        unit="s"
        digits={2}
        least={0}
        value={sound.fadeIn}
        onChange={(fadeIn) => change({ fadeIn })}
      />
      <NumberField
        label="Fade out"
        unit="s"
        digits={2}
        least={0}
        value={sound.fadeOut}
        onChange={(fadeOut) => change({ fadeOut })}
      />
      <Check label="Muted" checked={sound.muted} onChange={(muted) => change({ muted })} />
    </Group>
  );
}

function SoundButtons({ sound, scene, fps }: Pick<Props, 'sound' | 'scene'> & { readonly fps: number }) {
  const dispatch = useAppDispatch();
  const end = Math.ceil(soundEnd(sound, fps));
  const duplicate = (): void => {
    const names = Object.values(scene.sounds).map((s) => s.name);
    const copy = { ...sound, id: freshId('sound'), name: freeName(sound.name, names), start: end };
    if (dispatch(commit({ type: 'sound', sound: copy })))
      dispatch(sessionActions.selected({ kind: 'sound', id: copy.id }));
  };
  return (
    <div className="flex flex-wrap gap-2 border-t pt-3">
      <Button
        onClick={() =>
          dispatch(commit({ type: 'range', range: { from: Math.max(0, sound.start), to: Math.max(1, end) } }))
        }
      >
        Play the sound
      </Button>
      <Button onClick={duplicate}>Duplicate</Button>
      <Button
        onClick={() => {
          dispatch(commit({ type: 'remove sound', sound: sound.id }));
          dispatch(sessionActions.selected({ kind: 'scene' }));
        }}
      >
        Remove
      </Button>
    </div>
  );
}
