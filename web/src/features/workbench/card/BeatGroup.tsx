import type { Scene, Sound } from '@warper/core';
import { beatFrames, steadyBeats, tempoOf } from '@warper/core';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';
import { Button, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { markersAt } from '../sound/soundEdits';
import { useStudiedSound } from '../sound/useStudiedSound';
import type { SoundValues } from './SoundCard';

interface Props {
  readonly sound: Sound;
  readonly scene: Scene;
  readonly fps: number;
  readonly change: (values: SoundValues) => void;
}

/** The beats of a sound: heard in it, tapped, or set; and markers on them or on its onsets. */
export function BeatGroup({ sound, scene, fps, change }: Props) {
  const dispatch = useAppDispatch();
  const study = useStudiedSound(sound.source);
  const { beats } = sound;
  const tempo = tempoOf(beats);
  const setSteady = (period: number, first: number): void =>
    change({ beats: steadyBeats({ first, period }, 0, sound.seconds) });
  const mark = (name: string, frames: readonly number[]): void => {
    const edit = markersAt(scene, name, frames);
    if (!edit) dispatch(sessionActions.announced('There are markers already, or nothing to mark'));
    else if (dispatch(commit(edit))) dispatch(sessionActions.announced('Markers added'));
  };
  const heardBeats = study?.beats ?? [];
  const onsets = study?.onsets ?? [];
  return (
    <Group title="Beat">
      {tempo ? (
        <>
          <NumberField
            label="Beats per minute"
            digits={2}
            least={10}
            most={1000}
            value={60 / tempo.period}
            onChange={(perMinute) => setSteady(60 / perMinute, tempo.first)}
          />
          <NumberField
            label="First beat"
            unit="s"
            digits={3}
            least={0}
            value={beats[0] ?? 0}
            onChange={(first) => setSteady(tempo.period, first)}
          />
          <div className="flex flex-wrap gap-1.5">
            <Button onClick={() => change({ beats: beats.filter((_, i) => i % 2 === 0) })}>Half</Button>
            <Button onClick={() => change({ beats: doubled(beats, sound.seconds) })}>Double</Button>
            <Button onClick={() => change({ beats: [] })}>Clear</Button>
          </div>
        </>
      ) : (
        <p className="text-note text-soft">Play it and tap P on the beat, or have it detected.</p>
      )}
      <div className="flex flex-wrap gap-1.5">
        <Button disabled={heardBeats.length < 2} onClick={() => change({ beats: heardBeats })}>
          {study ? (heardBeats.length < 2 ? 'No beat detected' : 'Detect the beat') : 'Listening…'}
        </Button>
        {tempo && <Button onClick={() => mark('Beat', beatFrames(sound, fps))}>Mark beats</Button>}
        <Button
          disabled={onsets.length === 0}
          onClick={() => mark('Onset', beatFrames({ ...sound, beats: onsets }, fps))}
        >
          Mark onsets
        </Button>
      </div>
    </Group>
  );
}

/** Beats with one more between each two, and after the last. */
function doubled(beats: readonly number[], seconds: number): number[] {
  const all = beats.flatMap((b, i) => {
    const next = beats[i + 1];
    const last = beats[i - 1];
    const between = next !== undefined ? (b + next) / 2 : last !== undefined ? b + (b - last) / 2 : b;
    return between > b && between < seconds ? [b, between] : [b];
  });
  return all;
}
